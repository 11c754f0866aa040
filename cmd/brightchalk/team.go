package main

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"strings"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"brightchalk/internal/app"
	"brightchalk/internal/core/phoneme"
	"brightchalk/internal/people"
	"brightchalk/internal/store"
	"brightchalk/internal/tx"
)

const teamUsage = "say: brightchalk team create --name N --email E --lead NAME, or team people, password, role or " +
	"remove --email E"

func teamCommand(std stdio) *cobra.Command {
	c := &cobra.Command{
		Use: "team", Short: "Teams of this installation",
		Args: takes(0, 0, teamUsage), RunE: func(*cobra.Command, []string) error { return usage(teamUsage) },
	}
	var n people.NewTeam
	create := &cobra.Command{
		Use: "create", Short: "Make a team with its first lead",
		Long: "Make a team with its first lead. The lead's password is read from standard input.",
		Args: takes(0, 0, "it takes no arguments"),
	}
	create.Flags().StringVar(&n.Name, "name", "", "of the team")
	create.Flags().StringVar(&n.Email, "email", "", "of the first lead")
	create.Flags().StringVar(&n.LeadName, "lead", "", "name of the first lead")
	accent := create.Flags().String("accent", "", "of the team; southern-british where it is not given")
	create.RunE = func(*cobra.Command, []string) error {
		n.Accent = phoneme.Accent(*accent)
		return createTeam(std, n)
	}
	c.AddCommand(create, peopleCommand(std), passwordCommand(std), roleCommand(std), removeCommand(std))
	return c
}

// secret reads a password from standard input.
func secret(std stdio, whose string) string {
	fmt.Fprintf(std.err, "Password of %s (12 signs or more): ", whose)
	line, _ := bufio.NewReader(std.in).ReadString('\n')
	fmt.Fprintln(std.err)
	return strings.TrimRight(line, "\r\n")
}

// openApp opens the application on the database and closes it after f.
func openApp(f func(ctx context.Context, a *app.App) error) error {
	ctx := context.Background()
	pool, err := open(ctx)
	if err != nil {
		return err
	}
	defer pool.Close()
	return f(ctx, app.New(pool, app.Options{}))
}

func createTeam(std stdio, n people.NewTeam) error {
	n.Password = secret(std, "the lead")
	return openApp(func(ctx context.Context, a *app.App) error {
		id, err := a.Accounts.CreateTeam(ctx, n)
		if err != nil {
			return err
		}
		fmt.Fprintf(std.out, "Team %q is made (%s). Its lead signs in as %s.\n", n.Name, id, n.Email)
		return nil
	})
}

// account makes a command about the account with an address; whoever has the command line may do what a lead may.
func account(
	c *cobra.Command,
	f func(ctx context.Context, a *app.App, by tx.Actor, memberID, email string) error,
) *cobra.Command {
	email := c.Flags().String("email", "", "of the account")
	c.Args = takes(0, 0, "it takes no arguments; say --email E")
	c.RunE = func(*cobra.Command, []string) error {
		if *email == "" {
			return usage("say whose account it is: --email E")
		}
		return openApp(func(ctx context.Context, a *app.App) error {
			by, id, err := a.Accounts.AsOperator(ctx, *email)
			if errors.Is(err, store.ErrNotFound) {
				return fmt.Errorf("nobody has an account with the address %s", *email)
			}
			if err != nil {
				return err
			}
			return f(ctx, a, by, id, *email)
		})
	}
	return c
}

func peopleCommand(std stdio) *cobra.Command {
	c := &cobra.Command{Use: "people", Short: "List the team that somebody belongs to"}
	return account(c, func(ctx context.Context, a *app.App, by tx.Actor, _, _ string) error {
		list, err := a.Accounts.Members(ctx, by)
		if err != nil {
			return err
		}
		w := tabwriter.NewWriter(std.out, 0, 0, 2, ' ', 0)
		for _, m := range list {
			fmt.Fprintf(w, "%s\t%s\t%s\n", m.Name, m.Email, m.Role)
		}
		return w.Flush()
	})
}

func passwordCommand(std stdio) *cobra.Command {
	c := &cobra.Command{
		Use: "password", Short: "Give somebody a new password",
		Long: "Give somebody a new password, read from standard input. All sessions of the account end.",
	}
	return account(c, func(ctx context.Context, a *app.App, by tx.Actor, id, email string) error {
		if err := a.Accounts.ResetPassword(ctx, by, id, secret(std, email)); err != nil {
			return err
		}
		fmt.Fprintf(std.out, "%s has a new password; all sessions have ended.\n", email)
		return nil
	})
}

func roleCommand(std stdio) *cobra.Command {
	c := &cobra.Command{Use: "role", Short: "Change what somebody may do: lead, teacher or assistant"}
	role := c.Flags().String("role", "", "lead, teacher or assistant")
	return account(c, func(ctx context.Context, a *app.App, by tx.Actor, id, email string) error {
		if err := a.Accounts.SetRole(ctx, by, id, tx.Role(*role)); err != nil {
			return err
		}
		fmt.Fprintf(std.out, "%s is %s now.\n", email, *role)
		return nil
	})
}

func removeCommand(std stdio) *cobra.Command {
	c := &cobra.Command{
		Use: "remove", Short: "End somebody's account",
		Long: "End somebody's account and sessions at once. What they wrote and recorded stays, under the name.",
	}
	return account(c, func(ctx context.Context, a *app.App, by tx.Actor, id, email string) error {
		if err := a.Accounts.Remove(ctx, by, id); err != nil {
			return err
		}
		fmt.Fprintf(std.out, "%s has no account any more.\n", email)
		return nil
	})
}
