package httpapi

import (
	"bytes"
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"brightchalk/internal/curriculum"
	"brightchalk/internal/tx"
)

type givenOrder struct {
	Order []string `json:"order" maxItems:"500" doc:"card ids: each card of the library once"`
}

type newProposal struct {
	Order []string `json:"order" maxItems:"500" doc:"card ids: each card of the library once"`
	Note  string   `json:"note" maxLength:"300" doc:"why, for the team"`
}

type decision struct {
	Agree bool `json:"agree" doc:"false: it is put aside"`
}

type givenTable struct {
	Text    string                  `json:"text" maxLength:"400000" doc:"of the table, as CSV"`
	Columns curriculum.OrderColumns `json:"columns" doc:"where they are not called as usual"`
}

const exampleCard = "6f1c1c1e-5d0f-4c57-9d10-0d9f5f0f3b11"

func (s *server) orderCalls(api huma.API) {
	a := s.app.Orders
	call(s, api, route{
		id: "order", method: http.MethodGet, path: "/order", tag: "order",
		summary: "The order that stands, and what was proposed",
	}, func(ctx context.Context, by tx.Actor, _ *nothing) (curriculum.OrderView, error) {
		return a.Order(ctx, by)
	})
	call(s, api, route{
		id: "look-at-order", method: http.MethodPost, path: "/order/look", tag: "order",
		summary: "Judge an order beside the one that stands", about: "Nothing is kept.",
		example: givenOrder{[]string{exampleCard}},
	}, func(ctx context.Context, by tx.Actor, in *body[givenOrder]) (curriculum.OrderLook, error) {
		return a.Look(ctx, by, in.Body.Order)
	})
	call(s, api, route{
		id: "order-sentences", method: http.MethodPost, path: "/order/sentences", tag: "order",
		summary: "A made sentence for each step of an order", about: "Empty where none can be made. Nothing is kept.",
		example: givenOrder{[]string{exampleCard}},
	}, func(ctx context.Context, by tx.Actor, in *body[givenOrder]) ([]string, error) {
		return a.Sentences(ctx, by, in.Body.Order)
	})
	call(s, api, route{
		id: "propose-order", method: http.MethodPost, path: "/order/proposals", tag: "order",
		summary: "Propose a change of the order, as a whole",
		example: newProposal{[]string{exampleCard}, "b and d lie too close"},
	}, func(ctx context.Context, by tx.Actor, in *body[newProposal]) (created, error) {
		id, err := a.Propose(ctx, by, in.Body.Order, in.Body.Note)
		return created{id}, err
	})
	call(s, api, route{
		id: "decide-order", method: http.MethodPut, path: "/order/proposals/{id}", tag: "order",
		summary: "Agree a proposal, or put it aside", example: decision{true},
		about: "Only a lead may. One that was made from another order than the one that stands is refused.",
	}, func(ctx context.Context, by tx.Actor, in *changed[decision]) (done, error) {
		return ok(a.Decide(ctx, by, in.ID, in.Body.Agree))
	})
	call(s, api, route{
		id:      "read-order",
		method:  http.MethodPost,
		path:    "/order/table",
		tag:     "order",
		summary: "Read an order out of a table",
		about:   "Says of each line which card it names, or why none. Nothing is kept.",
		example: givenTable{Text: "step,grapheme,sound\n1,t,t\n2,a,a\n"},
	}, func(ctx context.Context, by tx.Actor, in *body[givenTable]) (curriculum.OrderTable, error) {
		return a.ReadOrder(ctx, by, in.Body.Text, in.Body.Columns)
	})
	download(s, api, route{
		id: "order-table", method: http.MethodGet, path: "/order.csv", tag: "order",
		summary: "The order as a table: step, grapheme, sound, exception words",
	}, []string{"text/csv"}, func(ctx context.Context, by tx.Actor, _ *nothing) (file, error) {
		var out bytes.Buffer
		err := a.OrderCSV(ctx, by, &out)
		return saved("text/csv; charset=utf-8", "order.csv", out, err)
	})
}

// searchCall streams a search for a better order, a line of JSON for each part.
