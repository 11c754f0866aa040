package store

import (
	"context"
	"encoding/json"
	"log/slog"
	"sync"
	"time"

	"github.com/jackc/pgx/v5/pgxpool"
)

// Change tells that something of a team changed. Kind is a table's name, "resync" after a gap in listening.
type Change struct {
	Team string `json:"team"`
	Kind string `json:"kind"`
	ID   string `json:"id"`
}

// Hub hands the database's notifications to those who wait for their team's changes. Each server process
// has one, so several behind a balancer work alike.
type Hub struct {
	mu     sync.Mutex
	subs   map[chan Change]string
	closed bool
}

// NewHub returns an empty hub; Run feeds it.
func NewHub() *Hub { return &Hub{subs: map[chan Change]string{}} }

// Subscribe returns a channel of a team's changes and a function that ends it. A reader that falls far
// behind gets a resync instead of what it missed.
func (h *Hub) Subscribe(teamID string) (<-chan Change, func()) {
	ch := make(chan Change, 32)
	h.mu.Lock()
	if h.closed {
		close(ch)
	} else {
		h.subs[ch] = teamID
	}
	h.mu.Unlock()
	return ch, func() {
		h.mu.Lock()
		delete(h.subs, ch)
		h.mu.Unlock()
	}
}

// Open is how many wait for changes.
func (h *Hub) Open() int {
	h.mu.Lock()
	defer h.mu.Unlock()
	return len(h.subs)
}

// Close ends all subscriptions: their channels close.
func (h *Hub) Close() {
	h.mu.Lock()
	defer h.mu.Unlock()
	h.closed = true
	for ch := range h.subs {
		close(ch)
		delete(h.subs, ch)
	}
}

func (h *Hub) send(c Change) {
	h.mu.Lock()
	defer h.mu.Unlock()
	for ch, team := range h.subs {
		if c.Team != "" && c.Team != team {
			continue
		}
		select {
		case ch <- c:
		default:
			// Only the hub sends, under its lock; the reader may take from the channel meanwhile, so nothing here may wait.
			drain(ch)
			select {
			case ch <- Change{Team: team, Kind: "resync"}:
			default:
			}
		}
	}
}

func drain(ch <-chan Change) {
	for {
		select {
		case <-ch:
		default:
			return
		}
	}
}

// Run listens until ctx ends, and connects again after a break.
func (h *Hub) Run(ctx context.Context, pool *pgxpool.Pool, log *slog.Logger) {
	for first := true; ctx.Err() == nil; first = false {
		if !first {
			select {
			case <-ctx.Done():
				return
			case <-time.After(time.Second):
			}
		}
		if err := h.listen(ctx, pool, first); err != nil && ctx.Err() == nil {
			log.Warn("listening for changes broke off", "error", err)
		}
	}
}

func (h *Hub) listen(ctx context.Context, pool *pgxpool.Pool, first bool) error {
	conn, err := pool.Acquire(ctx)
	if err != nil {
		return err
	}
	defer conn.Release()
	if _, err := conn.Exec(ctx, "LISTEN bright_chalk"); err != nil {
		return err
	}
	if !first {
		h.send(Change{Kind: "resync"})
	}
	for {
		n, err := conn.Conn().WaitForNotification(ctx)
		if err != nil {
			_ = conn.Conn().Close(context.WithoutCancel(ctx)) // not back to the pool while it listens
			return err
		}
		var c Change
		if json.Unmarshal([]byte(n.Payload), &c) == nil {
			h.send(c)
		}
	}
}
