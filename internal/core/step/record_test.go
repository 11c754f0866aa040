package step_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"brightchalk/internal/core/lesson"
	"brightchalk/internal/core/step"
)

// Seconds and items of a step by hand: what goes by items, by the time, by weight, by how often, by the class's pace.
func TestHowLongAStepMayBe(t *testing.T) {
	byTime := step.Record{MinSeconds: 30, UsualSeconds: 60, MaxSeconds: 90, Usually: 2, Again: 8}
	byItem := step.Record{MinSeconds: 50, UsualSeconds: 100, MaxSeconds: 200, ItemSeconds: 25, Usually: 2, Again: 5}
	ten := step.Material{Least: 1, Most: 10}
	for name, c := range map[string]struct {
		r      step.Record
		m      step.Material
		s      lesson.RoutineStep
		span   step.Span
		counts [3]int
	}{
		"by time":          {byTime, ten, lesson.RoutineStep{}, step.Span{30, 60, 90}, [3]int{}},
		"twice the weight": {byTime, ten, lesson.RoutineStep{Weight: 2}, step.Span{30, 120, 180}, [3]int{}},
		"a third of it":    {byTime, ten, lesson.RoutineStep{Weight: 0.25}, step.Span{15, 15, 90}, [3]int{}},
		"four times": {
			byTime, ten,
			lesson.RoutineStep{Options: lesson.Options{Times: 4}},
			step.Span{46, 76, 106},
			[3]int{},
		},
		"as often as usual": {
			byTime, ten,
			lesson.RoutineStep{Options: lesson.Options{Times: 2}},
			step.Span{30, 60, 90},
			[3]int{},
		},
		"once": {
			byTime, ten,
			lesson.RoutineStep{Options: lesson.Options{Times: 1}},
			step.Span{22, 52, 82},
			[3]int{},
		},
		"by items":    {byItem, ten, lesson.RoutineStep{}, step.Span{50, 100, 200}, [3]int{2, 4, 8}},
		"a heavy one": {byItem, ten, lesson.RoutineStep{Weight: 2}, step.Span{50, 200, 250}, [3]int{2, 8, 10}},
		"four of each": {
			byItem, ten,
			lesson.RoutineStep{Options: lesson.Options{Times: 4}},
			step.Span{70, 105, 175},
			[3]int{2, 3, 5},
		},
		"few there": {
			byItem,
			step.Material{Least: 1, Most: 3},
			lesson.RoutineStep{},
			step.Span{50, 75, 75},
			[3]int{2, 3, 3},
		},
		"in twos": {
			byItem,
			step.Material{Least: 3, Most: 9, By: 2},
			lesson.RoutineStep{},
			step.Span{100, 100, 200},
			[3]int{4, 4, 8},
		},
		"the team's least": {byItem, ten, lesson.RoutineStep{Least: 5}, step.Span{125, 125, 200}, [3]int{5, 5, 8}},
		"the material's": {
			byItem,
			step.Material{Least: 3, Most: 10},
			lesson.RoutineStep{},
			step.Span{75, 100, 200},
			[3]int{3, 4, 8},
		},
		"a span of its own": {
			byTime,
			step.Material{Span: &step.Span{10, 20, 40}},
			lesson.RoutineStep{Weight: 2},
			step.Span{10, 40, 80},
			[3]int{},
		},
		"a light own span": {
			byTime,
			step.Material{Span: &step.Span{10, 20, 40}},
			lesson.RoutineStep{Weight: 0.25},
			step.Span{10, 10, 40},
			[3]int{},
		},
		"one without play": {
			byTime,
			step.Material{Span: &step.Span{30, 30, 30}},
			lesson.RoutineStep{Weight: 2},
			step.Span{30, 30, 30},
			[3]int{},
		},
		"a least that is odd": {
			step.Record{MinSeconds: 51, UsualSeconds: 100, MaxSeconds: 200, ItemSeconds: 25},
			ten,
			lesson.RoutineStep{},
			step.Span{75, 100, 200},
			[3]int{3, 4, 8},
		},
	} {
		span, counts := c.r.Span(c.m, c.s)
		assert.Equal(t, c.span, span, name)
		assert.Equal(t, c.counts, counts, name)
	}
	assert.Equal(t, byItem, byItem.Paced(0))
	assert.Equal(t, byItem, byItem.Paced(1))
	slow := byItem.Paced(1.5)
	assert.Equal(t, []int{75, 150, 300, 38, 8}, []int{
		slow.MinSeconds, slow.UsualSeconds, slow.MaxSeconds, slow.ItemSeconds, slow.Again,
	})
	assert.Equal(t, 1, step.Record{ItemSeconds: 1}.Paced(0.2).ItemSeconds, "a second at the least")
	assert.Zero(t, byTime.Paced(2).ItemSeconds)
	assert.Equal(t, step.Span{5, 10, 20}, step.Span{10, 20, 40}.Paced(0.5))
	assert.Equal(t, step.Span{10, 20, 40}, step.Span{10, 20, 40}.Paced(0))
	for times, want := range map[int]int{0: 25, 1: 20, 2: 25, 4: 35} {
		assert.Equal(t, want, byItem.PerItem(times), times)
	}
	assert.Zero(t, byTime.PerItem(4))
	assert.Equal(t, 1, step.Record{ItemSeconds: 5, Usually: 4, Again: 3}.PerItem(1), "a second at the least")
}
