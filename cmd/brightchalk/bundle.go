package main

import (
	"fmt"

	"github.com/spf13/cobra"

	"brightchalk/internal/bundle"
	"brightchalk/internal/httpapi"
)

// bundleCommand is the calls about bundles.
func bundleCommand(std stdio) *cobra.Command {
	c := &cobra.Command{
		Use: "bundle", Short: "A team's library in one ZIP file",
		Args: takes(0, 0, "say: brightchalk bundle check FILE.zip"),
		RunE: func(*cobra.Command, []string) error { return usage("say: brightchalk bundle check FILE.zip") },
	}
	c.AddCommand(bundleCheckCommand(std), bundleSchemaCommand(std))
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
		r, err := bundle.Check(data)
		if err != nil {
			return fmt.Errorf("%s: %w", args[0], err)
		}
		if *json {
			return newPrinter(std, true).row(struct {
				File string `json:"file"`
				bundle.Report
			}{args[0], r})
		}
		_, err = fmt.Fprintf(std.out, "%s: %d cards (%d agreed), %d pictures, %d takes, %d texts, %d letters of its own\n",
			r.Team, r.Cards, r.Agreed, r.Pictures, r.Takes, r.Texts, r.Letters)
		if err != nil {
			return err
		}
		return rows(std, false, r.Findings, func(f bundle.Finding) []string { return []string{f.Code, f.Where, f.Text} })
	}
	return c
}

func bundleSchemaCommand(std stdio) *cobra.Command {
	return &cobra.Command{
		Use: "schema", Short: "The JSON Schema of the library.json in a bundle",
		Args: takes(0, 0, "say: brightchalk bundle schema"),
		RunE: func(*cobra.Command, []string) error {
			schema, err := httpapi.BundleSchema()
			if err == nil {
				_, err = fmt.Fprintf(std.out, "%s\n", schema)
			}
			return err
		},
	}
}
