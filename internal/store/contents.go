package store

import (
	"sync"

	"brightchalk/internal/core/card"
)

// mostParsed is how many contents are kept in each of two generations.
const mostParsed = 1500

// parsedContents keeps what contents of cards say by their bytes: a library is read with nearly every call, and taking
// its documents apart costs more than all else in it. What was not asked for while a generation filled up goes.
type parsedContents struct {
	mu         sync.Mutex
	young, old map[string]card.Content
}

var parsed = &parsedContents{young: map[string]card.Content{}}

// read is card.Contents.Read; the lists of what it returns are the caller's own.
func (p *parsedContents) read(raw []byte) (card.Content, error) {
	p.mu.Lock()
	c, ok := p.young[string(raw)]
	if !ok {
		if c, ok = p.old[string(raw)]; ok {
			p.keep(string(raw), c)
		}
	}
	p.mu.Unlock()
	if !ok {
		var err error
		if c, err = card.Contents.Read(raw); err != nil {
			return c, err
		}
		p.mu.Lock()
		p.keep(string(raw), c)
		p.mu.Unlock()
	}
	return c.Clone(), nil
}

func (p *parsedContents) keep(raw string, c card.Content) {
	if len(p.young) >= mostParsed {
		p.young, p.old = map[string]card.Content{}, p.young
	}
	p.young[raw] = c
}
