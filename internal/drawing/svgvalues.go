package drawing

import (
	"image/color"
	"strconv"
	"strings"

	"golang.org/x/image/colornames"
)

func faded(c color.RGBA, by float64) color.RGBA {
	c.A = uint8(float64(c.A)*max(0, min(1, by)) + 0.5)
	return c
}

// parseColour reads #rgb, #rrggbb, rgb(…) and the colour names of SVG.
func parseColour(v string) (color.RGBA, bool) {
	v = strings.ToLower(strings.TrimSpace(v))
	if hex, ok := strings.CutPrefix(v, "#"); ok {
		if len(hex) == 3 || len(hex) == 4 {
			long := ""
			for _, c := range hex {
				long += string(c) + string(c)
			}
			hex = long
		}
		n, err := strconv.ParseUint(hex, 16, 64)
		switch {
		case err != nil:
			return color.RGBA{}, false
		case len(hex) == 8:
			return color.RGBA{uint8(n >> 24), uint8(n >> 16), uint8(n >> 8), uint8(n)}, true
		case len(hex) == 6:
			return color.RGBA{uint8(n >> 16), uint8(n >> 8), uint8(n), 0xff}, true
		}
		return color.RGBA{}, false
	}
	if inside, ok := strings.CutPrefix(v, "rgb"); ok {
		inside = strings.Trim(strings.TrimPrefix(inside, "a"), "()")
		var c [4]float64
		c[3] = 255
		parts := strings.FieldsFunc(inside, func(r rune) bool { return r == ',' || r == ' ' || r == '/' })
		if len(parts) < 3 {
			return color.RGBA{}, false
		}
		for i, part := range parts[:min(4, len(parts))] {
			k := 1.0
			if i == 3 {
				k = 255
			}
			if p, ok := strings.CutSuffix(part, "%"); ok {
				part, k = p, 2.55
			}
			n, err := strconv.ParseFloat(part, 64)
			if err != nil {
				return color.RGBA{}, false
			}
			c[i] = max(0, min(255, n*k))
		}
		return color.RGBA{uint8(c[0]), uint8(c[1]), uint8(c[2]), uint8(c[3])}, true
	}
	c, ok := colornames.Map[v]
	return c, ok
}

// length reads a number with or without px; other units are read as px, a share of the page is not known here.
func length(v string, otherwise float64) float64 {
	n, _, err := leadingNumber(strings.TrimSpace(v))
	if err != nil {
		return otherwise
	}
	return n
}

// share reads an opacity, 0 to 1 or in per cent.
func share(v string, otherwise float64) float64 {
	n := length(v, otherwise)
	if strings.HasSuffix(v, "%") {
		n /= 100
	}
	return max(0, min(1, n))
}

func floats(v string) []float64 {
	var out []float64
	for {
		v = strings.TrimLeft(v, " \t\r\n,")
		n, width, err := leadingNumber(v)
		if err != nil {
			return out
		}
		out, v = append(out, n), v[width:]
	}
}

func parseTransform(v string) Matrix {
	m := Identity
	for {
		name, rest, ok := strings.Cut(v, "(")
		if !ok {
			return m
		}
		inside, after, _ := strings.Cut(rest, ")")
		n := floats(inside)
		at := func(i int, otherwise float64) float64 {
			if i < len(n) {
				return n[i]
			}
			return otherwise
		}
		switch strings.Trim(name, " ,\t\r\n") {
		case "matrix":
			if len(n) == 6 {
				m = m.Mul(Matrix(n))
			}
		case "translate":
			m = m.Translate(at(0, 0), at(1, 0))
		case "scale":
			m = m.Scale(at(0, 1), at(1, at(0, 1)))
		case "rotate": // to the right on the page, since y grows downwards
			m = m.Translate(at(1, 0), at(2, 0)).Rotate(at(0, 0)).Translate(-at(1, 0), -at(2, 0))
		case "skewX":
			m = m.Mul(Matrix{1, 0, tan(at(0, 0)), 1, 0, 0})
		case "skewY":
			m = m.Mul(Matrix{1, tan(at(0, 0)), 0, 1, 0, 0})
		}
		v = after
	}
}
