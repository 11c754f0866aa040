package store

// Declared and Texts are for the test of the statements.
var (
	Declared = declared
	Texts    = texts
	Files    = statementFiles
)

// Send hands a change to a hub as if the database had told it.
func (h *Hub) Send(c Change) { h.send(c) }

// ReadContent reads a stored content as the statements do.
var ReadContent = contents.read
