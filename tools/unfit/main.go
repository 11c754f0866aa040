// Command unfit lists, for reading by eye, which words of a list the package unfit refuses: go run ./tools/unfit <
// words
package main

import (
	"bufio"
	"fmt"
	"os"

	"brightchalk/internal/core/unfit"
)

func main() {
	byTheme := map[unfit.Theme][]string{}
	in := bufio.NewScanner(os.Stdin)
	for in.Scan() {
		if t, ok := unfit.Of(in.Text()); ok {
			byTheme[t] = append(byTheme[t], in.Text())
		} else if len(os.Args) > 1 {
			byTheme["fit"] = append(byTheme["fit"], in.Text())
		}
	}
	for _, t := range append(unfit.Themes(), "fit") {
		fmt.Println(t, byTheme[t])
	}
}
