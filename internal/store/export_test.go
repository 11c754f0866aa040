package store

// Declared and Texts are for the test of the statements.
var (
	Declared = declared
	Texts    = texts
	Files    = statementFiles
)
