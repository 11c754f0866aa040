package main

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"syscall"
	"time"

	"github.com/KimMachineGun/automemlimit/memlimit"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/spf13/cobra"

	"brightchalk/internal/store"
)

// check is one thing that the doctor looked at.
type check struct {
	Check string `json:"check"`
	State string `json:"state"` // good, care, wrong
	Found string `json:"found"`
}

const (
	good  = "good"
	care  = "care"
	wrong = "wrong"
)

// What is asked of an installation.
const (
	minServer    = 150000          // PostgreSQL 15
	maxClockSkew = 2 * time.Second // between the clocks of this machine and of the database
	minDisk      = 1 << 30         // bytes free for uploads on their way
	minMemory    = 256 << 20       // bytes
	unusedFor    = 24 * time.Hour  // a medium may be on its way to its card
)

var errUnwell = errors.New("something is wrong; see above")

func doctorCommand(std stdio) *cobra.Command {
	c := &cobra.Command{
		Use: "doctor", Short: "Look over the database, the clock, the disk, the memory and everything that is kept",
		Long: "Look over the database, the clock, the disk, the memory and everything that is kept. Nothing is changed, " +
			"but with --collect pictures and sounds are dropped that nothing has named for a day. It does not migrate. " +
			"Exit status 1 where something is wrong.",
		Args: takes(0, 0, "it takes no arguments"),
	}
	collect := c.Flags().Bool("collect", false, "drop pictures and sounds that nothing names")
	asJSON := c.Flags().Bool("json", false, "one JSON object a line")
	c.RunE = func(*cobra.Command, []string) error {
		config, err := unbound()
		if err != nil {
			return err
		}
		ctx := context.Background()
		pool, err := pgxpool.NewWithConfig(ctx, config)
		if err != nil {
			return err
		}
		defer pool.Close()
		unwell := false
		for _, k := range examine(ctx, pool, *collect) {
			unwell = unwell || k.State == wrong
			if *asJSON {
				if err := json.NewEncoder(std.out).Encode(k); err != nil {
					return err
				}
				continue
			}
			fmt.Fprintf(std.out, "%s %-11s %s\n", map[string]string{good: "✓", care: "!", wrong: "×"}[k.State], k.Check, k.Found)
		}
		if unwell {
			return errUnwell
		}
		return nil
	}
	return c
}

// examine looks at one thing after the other. Where the database does not answer, the rest of it is left out.
func examine(ctx context.Context, pool *pgxpool.Pool, collect bool) []check {
	out := []check{disk(), memory()}
	began := time.Now()
	everything := store.AllTeams{Pool: pool}
	state, err := store.State(ctx, pool)
	if err != nil {
		return append(out, check{"database", wrong, "it does not answer: " + err.Error()})
	}
	out = append(out, server(state), clock(state, began, time.Now()))
	has, err := store.SchemaVersion(ctx, pool)
	newest := store.NewestSchema()
	switch {
	case err != nil:
		return append(out, check{"migrations", wrong, "the database holds no library yet: start the server once"})
	case has < newest:
		return append(
			out,
			check{"migrations", wrong, fmt.Sprintf("%d of %d: the server brings the rest when it starts", has, newest)},
		)
	case has > newest:
		return append(
			out,
			check{"migrations", wrong, fmt.Sprintf("%d, and this program knows %d: it is older than the database", has, newest)},
		)
	}
	out = append(out, check{"migrations", good, fmt.Sprintf("%d of %d", has, newest)})
	out = append(out, wall(ctx))
	n, err := store.Count(ctx, everything)
	if err != nil {
		return append(out, check{"library", wrong, err.Error()})
	}
	none := func(name string, count int64, of, lacks string) {
		k := check{name, good, of}
		if count > 0 {
			k.State, k.Found = wrong, fmt.Sprintf("%d %s", count, lacks)
		}
		out = append(out, k)
	}
	none(
		"teams",
		n.Leaderless,
		fmt.Sprintf("%d, each with a lead", n.Teams),
		"have no lead who can sign in: see brightchalk team role",
	)
	none(
		"media",
		n.Damaged,
		fmt.Sprintf("%d, each as its hash says", n.Media),
		"are not what their hash says: restore them from a backup",
	)
	none("takes", n.Voiceless, "each has its sound", "have no sound")
	none("pictures", n.Pictureless, "each card has the picture that it names", "cards name a picture that is not there")
	return append(out, unused(ctx, everything, collect))
}

// wall tells whether the servers' role is held to one team at a time by the database itself.
func wall(ctx context.Context) check {
	config, err := databaseConfig()
	if err != nil {
		return check{"wall", care, err.Error()}
	}
	config.MaxConns = 1
	pool, err := pgxpool.NewWithConfig(ctx, config)
	if err != nil {
		return check{"wall", care, err.Error()}
	}
	defer pool.Close()
	held, err := store.Guarded(ctx, pool)
	switch {
	case err != nil:
		return check{"wall", care, "the servers' role cannot look: " + err.Error()}
	case !held:
		return check{"wall", care, config.ConnConfig.User + " is a superuser, whom no policy holds to one team: see prepare"}
	}
	return check{"wall", good, "the database itself holds " + config.ConnConfig.User + " to one team at a time"}
}

func disk() check {
	var fs syscall.Statfs_t
	dir := os.TempDir()
	if err := syscall.Statfs(dir, &fs); err != nil {
		return check{"disk", care, "it cannot be read: " + err.Error()}
	}
	free := int64(fs.Bavail) * fs.Bsize //nolint:unconvert // other types on other systems
	k := check{"disk", good, fmt.Sprintf("%d MB free in %s, where uploads pass", free>>20, dir)}
	if free < minDisk {
		k.State = care
		k.Found += fmt.Sprintf("; %d MB are better", minDisk>>20)
	}
	return k
}

func memory() check {
	limit, err := memlimit.ApplyFallback(memlimit.FromCgroup, memlimit.FromSystem)()
	if err != nil {
		return check{"memory", care, "it cannot be read: " + err.Error()}
	}
	k := check{"memory", good, fmt.Sprintf("%d MB for this machine or container", limit>>20)}
	if limit < minMemory {
		k.State = care
		k.Found += fmt.Sprintf("; %d MB are better", minMemory>>20)
	}
	return k
}

func server(s store.ServerState) check {
	k := check{"database", good, fmt.Sprintf("PostgreSQL %d.%d, %d MB", s.Version/10000, s.Version%10000, s.Bytes>>20)}
	switch {
	case s.Version < minServer:
		k.State, k.Found = wrong, k.Found+"; 15 or newer is needed"
	case s.Standby:
		k.State, k.Found = care, k.Found+"; it is a standby: nothing can be written there"
	case !s.Durable:
		k.State, k.Found = care, k.Found+"; fsync or full_page_writes is off: a crash loses what was acknowledged"
	}
	return k
}

// clock compares the database's clock with ours, which was read before and after.
func clock(s store.ServerState, before, after time.Time) check {
	off := time.Duration(0)
	switch {
	case s.Clock.Before(before):
		off = before.Sub(s.Clock)
	case s.Clock.After(after):
		off = s.Clock.Sub(after)
	}
	k := check{"clock", good, "as the database's"}
	if off > maxClockSkew {
		k.State = care
		k.Found = fmt.Sprintf(
			"%s off the database's: sessions, codes and links end too early or too late",
			off.Round(time.Second),
		)
	}
	return k
}

func unused(ctx context.Context, everything store.AllTeams, collect bool) check {
	before := time.Now().Add(-unusedFor)
	u, err := store.UnusedMedia(ctx, everything, before)
	if err != nil {
		return check{"unused", wrong, err.Error()}
	}
	if collect && u.Media > 0 {
		n, err := store.CollectMedia(ctx, everything, before)
		if err != nil {
			return check{"unused", wrong, err.Error()}
		}
		return check{"unused", good, fmt.Sprintf("%d pictures and sounds that nothing named are dropped", n)}
	}
	if u.Media > 0 {
		return check{
			"unused",
			care,
			fmt.Sprintf("%d pictures and sounds (%d KB) that nothing names; --collect drops them", u.Media, u.Bytes>>10),
		}
	}
	return check{"unused", good, "nothing"}
}
