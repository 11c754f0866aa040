package main

import (
	"context"
	"fmt"
	"time"

	"github.com/spf13/cobra"

	"brightchalk/internal/backup"
)

func backupCommand(std stdio) *cobra.Command {
	c := &cobra.Command{
		Use: "backup FILE", Short: "Write everything to a file, by pg_dump, while the servers run",
		Long: "Write everything to FILE, by pg_dump, while the servers run, and to FILE.json what each table holds. With " +
			"--verify it is restored into a database of its own on the same server, compared row by row, and that is dropped. " +
			"Sessions stay out. Keep the files as you keep the database.",
		Args: takes(1, 1, "say where to: brightchalk backup FILE"),
	}
	verify := c.Flags().Bool("verify", false, "restore it beside, and compare")
	c.RunE = func(_ *cobra.Command, args []string) error {
		at, err := unbound()
		if err != nil {
			return err
		}
		ctx, began := context.Background(), time.Now()
		m, err := backup.Write(ctx, at.ConnConfig, args[0], version())
		if err != nil {
			return err
		}
		fmt.Fprintf(std.out, "%s: %d tables, %d rows, %.1f MB, %.1f s\n",
			args[0], len(m.Tables), m.Rows(), float64(m.Bytes)/(1<<20), time.Since(began).Seconds())
		if !*verify {
			return nil
		}
		began = time.Now()
		if err := backup.Verify(ctx, at.ConnConfig, args[0]); err != nil {
			return err
		}
		fmt.Fprintf(std.out, "restored beside and the same, row by row, %.1f s\n", time.Since(began).Seconds())
		return nil
	}
	return c
}

func restoreCommand(std stdio) *cobra.Command {
	c := &cobra.Command{
		Use:   "restore FILE",
		Short: "Fill an empty database from a backup, and compare",
		Long: "Fill the database of DATABASE_URL, which must be empty, from a backup, and compare it row by row with what " +
			"was written. Start the server on it afterwards: everybody signs in anew.",
		Args: takes(1, 1, "say which: brightchalk restore FILE"),
	}
	c.RunE = func(_ *cobra.Command, args []string) error {
		at, err := unbound()
		if err != nil {
			return err
		}
		began := time.Now()
		m, err := backup.Restore(context.Background(), at.ConnConfig, args[0])
		if err != nil {
			return err
		}
		fmt.Fprintf(std.out, "%s of %s: %d tables, %d rows, the same row by row, %.1f s\n",
			at.ConnConfig.Database, m.MadeAt.Format(time.RFC3339), len(m.Tables), m.Rows(), time.Since(began).Seconds())
		return nil
	}
	return c
}
