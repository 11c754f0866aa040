package store

import (
	"context"
	"time"
)

// Proposal is a change of the order of teaching, as a whole: the cards of the order before and after it.
type Proposal struct {
	ProposalID string     `json:"proposal_id" format:"uuid"`
	Note       string     `json:"note"`
	Before     []string   `json:"before" doc:"card ids of the order that it was made from"`
	After      []string   `json:"after" doc:"card ids of the order that it proposes"`
	State      string     `json:"state" enum:"open,agreed,put aside"`
	MadeBy     string     `json:"made_by"`
	MadeAt     time.Time  `json:"made_at"`
	DecidedBy  string     `json:"decided_by"`
	DecidedAt  *time.Time `json:"decided_at,omitempty"`
}

var (
	orderSet          = change("order_set")
	proposalAdd       = value[string]("proposal_add")
	proposalList      = query[Proposal]("proposal_list")
	proposalGet       = query[Proposal]("proposal_get")
	proposalOpenCount = value[int]("proposal_open_count")
	proposalDecide    = change("proposal_decide")
)

// SetOrder puts cards at steps, all at once: the steps are a permutation of those that the cards had.
func (l Library) SetOrder(ctx context.Context, cardIDs []string, steps []int) error {
	_, _, err := orderSet.count(ctx, l.db, l.with(args{"ids": cardIDs, "steps": steps}))
	return err
}

// AddProposal keeps a proposal and returns its id.
func (l Library) AddProposal(
	ctx context.Context,
	note string,
	before, after []string,
	by string,
	now time.Time,
) (string, error) {
	return proposalAdd.get(ctx, l.db, l.with(args{
		"note": note, "before": before, "after": after, "by": nullable(by), "now": now,
	}))
}

// Proposals lists the newest proposals.
func (l Library) Proposals(ctx context.Context) ([]Proposal, error) {
	return proposalList.many(ctx, l.db, l.with(nil))
}

// Proposal returns one.
func (l Library) Proposal(ctx context.Context, id string) (Proposal, error) {
	return proposalGet.one(ctx, l.db, l.with(args{"proposal_id": id}))
}

// OpenProposals counts those that nobody decided.
func (l Library) OpenProposals(ctx context.Context) (int, error) {
	return proposalOpenCount.get(ctx, l.db, l.with(nil))
}

// DecideProposal ends an open proposal; ErrChanged where somebody else did.
func (l Library) DecideProposal(ctx context.Context, id, state, by string, now time.Time) error {
	n, _, err := proposalDecide.count(ctx, l.db, l.with(args{
		"proposal_id": id, "state": state, "by": nullable(by), "now": now,
	}))
	if err == nil && n == 0 {
		return ErrChanged
	}
	return err
}
