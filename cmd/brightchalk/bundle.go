package main

import (
	"fmt"

	"github.com/spf13/cobra"

	"brightchalk/internal/app"
)

// bundleCommand is the calls about bundles.
func bundleCommand(std stdio) *cobra.Command {
	c := &cobra.Command{
		Use: "bundle", Short: "A team's library in one ZIP file",
		Args: takes(0, 0, "say: brightchalk bundle check FILE.zip"),
		RunE: func(*cobra.Command, []string) error { return usage("say: brightchalk bundle check FILE.zip") },
	}
	c.AddCommand(bundleCheckCommand(std))
	return c
}

func bundleCheckCommand(std stdio) *cobra.Command {
	c := &cobra.Command{
		Use: "check FILE.zip", Short: "What a bundle holds and what is wrong with it",
		Args: takes(1, 1, "say: brightchalk bundle check FILE.zip"),
	}
	json := c.Flags().Bool("json", false, "print JSON")
	c.RunE = func(_ *cobra.Command, args []string) error {
		data, err := readInput(std, args[0])
		if err != nil {
			return err
		}
		r, err := app.CheckBundle(data)
		if err != nil {
			return fmt.Errorf("%s: %w", args[0], err)
		}
		if *json {
			return newPrinter(std, true).row(struct {
				File string `json:"file"`
				app.BundleReport
			}{args[0], r})
		}
		_, err = fmt.Fprintf(std.out, "%s: %d cards (%d agreed), %d pictures, %d takes, %d texts, %d letters of its own\n",
			r.Team, r.Cards, r.Agreed, r.Pictures, r.Takes, r.Texts, r.Letters)
		if err != nil {
			return err
		}
		return rows(std, false, r.Findings, func(f app.BundleFinding) []string { return []string{f.Code, f.Where, f.Text} })
	}
	return c
}
