package step_test

import (
	"testing"

	"brightchalk/test/trial"
)

// What the steps show and say stands in the lessons to be read.
func TestLessonsToBeRead(t *testing.T) { trial.Read(t, "../../../test/trial") }
