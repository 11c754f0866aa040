package store

import (
	"sync"

	"brightchalk/internal/core/card"
)

// maxParsed is how many contents are kept in each of two generations.
const maxParsed = 1500

// contentCache keeps what contents of cards say by their bytes: a library is read with nearly every call, and taking
// its documents apart costs more than all else in it. What was not asked for while a generation filled up goes.
type contentCache struct {
	mu           sync.Mutex
	newer, older map[string]card.Content
}

var contents = &contentCache{newer: map[string]card.Content{}}

// read is card.Contents.Read; the lists of what it returns are the caller's own.
func (p *contentCache) read(raw []byte) (card.Content, error) {
	p.mu.Lock()
	c, ok := p.newer[string(raw)]
	if !ok {
		if c, ok = p.older[string(raw)]; ok {
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

func (p *contentCache) keep(raw string, c card.Content) {
	if len(p.newer) >= maxParsed {
		p.newer, p.older = map[string]card.Content{}, p.newer
	}
	p.newer[raw] = c
}
