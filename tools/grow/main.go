// Command grow fills a database with teams, each a copy of the demo's in full (cards, versions, takes and pictures,
// logs, lessons, reviews), and measures how long what a team does most takes in installations of several sizes: the
// wall, a card, the list of lessons, Today. It is for a database of its own that it may fill.
//
//	DATABASE_URL=… go run ./tools/grow [-teams 10,100,1000] [-calls 400]
package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"log"
	"math/rand/v2"
	"os"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgxpool"

	"brightchalk/demo"
	"brightchalk/internal/app"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

func main() {
	log.SetFlags(0)
	sizes := flag.String("teams", "10,100,1000", "sizes, one after the other")
	calls := flag.Int("calls", 400, "of each kind, at each size")
	flag.Parse()
	if err := run(context.Background(), *sizes, *calls); err != nil {
		log.Fatal(err)
	}
}

func run(ctx context.Context, sizes string, calls int) error {
	server, pool, err := store.Tool(ctx, os.Getenv("DATABASE_URL"), os.Getenv("BRIGHT_CHALK_OWNER_URL"))
	if err != nil {
		return err
	}
	defer pool.Close()
	defer server.Close()
	a := app.New(server, app.Options{})
	if _, err := demo.Load(ctx, a); err != nil {
		return err
	}
	if err := demo.Live(ctx, a); err != nil {
		return err
	}
	model, _, err := a.Accounts.AsOperator(ctx, demo.SignIns[0].Email)
	if err != nil {
		return err
	}
	have, err := store.CountTeams(ctx, pool) // of a run before
	if err != nil {
		return err
	}
	for _, text := range strings.Split(sizes, ",") {
		want, err := strconv.Atoi(text)
		if err != nil {
			return err
		}
		began := time.Now()
		for ; have < want; have++ {
			if err := copyTeam(ctx, pool, model.TeamID, have); err != nil {
				return fmt.Errorf("team %d: %w", have, err)
			}
		}
		if _, err := pool.Exec(ctx, "ANALYZE"); err != nil {
			return err
		}
		var size string
		err = pool.QueryRow(ctx, "SELECT pg_size_pretty(pg_database_size(current_database()))").Scan(&size)
		if err != nil {
			return err
		}
		fmt.Printf("%d teams, %s, filled in %.0f s\n", want, size, time.Since(began).Seconds())
		if err := measure(ctx, a, pool, calls); err != nil {
			return err
		}
	}
	return nil
}

// A copy has neither what somebody signs in with nor what lets somebody in, nor what lies there for a week.
const notCopied = "'account_event', 'account_link', 'desk_pass', 'class_feed', 'parcel', 'parcel_file'"

// copyTeam writes the rows of a team once more, with ids of its own: each id is a hash of the model's and a number.
func copyTeam(ctx context.Context, pool *pgxpool.Pool, model string, n int) error {
	return pgx.BeginFunc(ctx, pool, func(tx pgx.Tx) error {
		if _, err := tx.Exec(ctx, "SET LOCAL session_replication_role = replica"); err != nil {
			return err // no triggers, no order of keys: the model keeps to them
		}
		tables, _ := tx.Query(ctx, "SELECT table_name FROM information_schema.columns WHERE column_name = 'team_id' AND "+
			"table_schema = 'public' AND table_name NOT IN ("+notCopied+") ORDER BY table_name")
		copied, err := pgx.CollectRows(tables, pgx.RowTo[string])
		if err != nil {
			return err
		}
		for _, table := range copied {
			rows, _ := tx.Query(
				ctx,
				`SELECT column_name, udt_name, is_identity = 'YES' OR coalesce(column_default, '') LIKE 'nextval%'
				FROM information_schema.columns WHERE table_name = $1 AND is_generated = 'NEVER' ORDER BY ordinal_position`,
				table,
			)
			type column struct {
				Name, Kind string
				Counted    bool
			}
			columns, err := pgx.CollectRows(rows, pgx.RowToStructByPos[column])
			if err != nil {
				return err
			}
			var names, values []string
			for _, c := range columns {
				switch {
				case c.Counted:
					continue
				case c.Name == "account_id":
					continue
				case c.Kind == "uuid":
					values = append(values, fmt.Sprintf("md5(%s::text || '%d')::uuid", c.Name, n))
				default:
					values = append(values, c.Name)
				}
				names = append(names, c.Name)
			}
			_, err = tx.Exec(ctx, fmt.Sprintf("INSERT INTO %s (%s) SELECT %s FROM %s WHERE team_id = $1",
				table, strings.Join(names, ", "), strings.Join(values, ", "), table), model)
			if err != nil {
				return fmt.Errorf("%s: %w", table, err)
			}
		}
		return nil
	})
}

// measure asks as members of teams by chance, one after the other, so that nothing but the size differs.
func measure(ctx context.Context, a *app.App, pool *pgxpool.Pool, calls int) error {
	rows, _ := pool.Query(
		ctx,
		"SELECT member_id::text, team_id::text FROM member WHERE role = 'lead' AND archived_at IS NULL",
	)
	people, err := pgx.CollectRows(rows, pgx.RowToStructByPos[struct{ Member, Team string }])
	if err != nil {
		return err
	}
	rng := rand.New(rand.NewPCG(1, 2))
	kinds := []struct {
		name string
		ask  func(by tx.Actor, cards, classes []string) error
	}{
		{"wall", func(by tx.Actor, _, _ []string) error { _, err := a.Cards.Wall(ctx, by, false); return err }},
		{"card", func(by tx.Actor, cards, _ []string) error {
			_, err := a.Cards.Card(ctx, by, cards[rng.IntN(len(cards))])
			return err
		}},
		{"lessons", func(by tx.Actor, _, _ []string) error {
			_, err := a.Lessons.Lessons(ctx, by, "", time.Time{})
			return err
		}},
		{"today", func(by tx.Actor, _, _ []string) error { _, err := a.Today.Today(ctx, by); return err }},
	}
	for _, k := range kinds {
		var took []time.Duration
		for range calls {
			p := people[rng.IntN(len(people))]
			by := tx.Actor{MemberID: p.Member, TeamID: p.Team, Role: tx.Lead}
			wall, err := a.Cards.Wall(ctx, by, false)
			if err != nil || len(wall) == 0 {
				return errors.Join(err, errors.New("a team without cards"))
			}
			cards := make([]string, len(wall))
			for i, c := range wall {
				cards[i] = c.CardID
			}
			began := time.Now()
			if err := k.ask(by, cards, nil); err != nil {
				return fmt.Errorf("%s: %w", k.name, err)
			}
			took = append(took, time.Since(began))
		}
		slices.Sort(took)
		fmt.Printf("  %-8s median %6.1f ms, 99th percentile %6.1f ms\n", k.name,
			ms(took[len(took)/2]), ms(took[len(took)*99/100]))
	}
	return nil
}

func ms(d time.Duration) float64 { return float64(d.Microseconds()) / 1000 }
