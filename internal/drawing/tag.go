package drawing

import (
	"bytes"
	"errors"
	"fmt"
	"regexp"
	"strconv"
	"strings"
	"unicode/utf16"
)

// mark is a marked stretch of a page's content; its number on the page is its place in the list.
type mark struct{ part *part }

var (
	pdfTrailer = regexp.MustCompile(
		`^trailer\n<<\n/Size (\d+)\n/Root (\d+) 0 R\n/Info (\d+) 0 R\n>>\nstartxref\n(\d+)\n%%EOF\n$`,
	)
	errNoTags = errors.New("the PDF is not as fpdf writes it, so it cannot be tagged")
)

// pdfObject is an object of the file with the text between its outer brackets.
type pdfObject struct {
	id   int
	body []byte
}

// parseObjects finds the objects whose dictionary begins with a text, in the order of the file. It looks for the
// text, not for a pattern: a file is mostly compressed data.
func parseObjects(pdf []byte, begin string) []pdfObject {
	var out []pdfObject
	for at := 0; ; {
		i := bytes.Index(pdf[at:], []byte(begin))
		if i < 0 {
			return out
		}
		i += at
		head := bytes.TrimSuffix(pdf[:i], []byte(" 0 obj\n"))
		end := bytes.Index(pdf[i:], []byte(">>\nendobj\n"))
		at = i + len(begin)
		if len(head) == i || end < 0 {
			continue
		}
		digits := head[bytes.LastIndexByte(head, '\n')+1:]
		out = append(out, pdfObject{number10(digits), pdf[i+2 : i+end]})
	}
}

// tag adds the structure that a screen reader follows (ISO 32000-1, 14.7 and 14.8), which fpdf cannot write, as an
// incremental update (7.5.6) behind the file: new pages, a new catalog, a structure tree. tags are the marks of each
// page in the order of its content.
func tag(pdf []byte, tags [][]mark) ([]byte, error) {
	trailer := pdfTrailer.FindSubmatch(pdf[max(0, bytes.LastIndex(pdf, []byte("trailer\n"))):])
	pages, catalogs := parseObjects(pdf, "<</Type /Page\n"), parseObjects(pdf, "<<\n/Type /Catalog\n")
	if trailer == nil || len(pages) != len(tags) || len(catalogs) != 1 {
		return nil, errNoTags
	}
	u := update{out: bytes.NewBuffer(bytes.Clone(pdf)), next: number10(trailer[1])}
	tree, document, parents := u.reserve(), u.reserve(), u.reserve()
	var kids, numbers strings.Builder
	for i, page := range pages {
		id := page.id
		var refs strings.Builder
		elements := map[*part]int{}
		var order []*part
		inside := map[*part][]string{}
		for k, m := range tags[i] {
			if _, there := elements[m.part]; !there {
				elements[m.part] = u.reserve()
				order = append(order, m.part)
			}
			inside[m.part] = append(inside[m.part], strconv.Itoa(k))
			fmt.Fprintf(&refs, "%d 0 R ", elements[m.part])
		}
		for _, p := range order {
			alt := ""
			if p.alt != "" {
				alt = " /Alt " + textString(p.alt)
			}
			u.object(elements[p], fmt.Sprintf("<</Type /StructElem /S /%s /P %d 0 R /Pg %d 0 R /K [%s]%s>>",
				p.role, document, id, strings.Join(inside[p], " "), alt))
			fmt.Fprintf(&kids, "%d 0 R ", elements[p])
		}
		fmt.Fprintf(&numbers, "%d [%s] ", i, refs.String())
		u.object(id, fmt.Sprintf("<<%s/StructParents %d /Tabs /S>>", page.body, i))
	}
	u.object(document, fmt.Sprintf("<</Type /StructElem /S /Document /P %d 0 R /K [%s]>>", tree, kids.String()))
	u.object(parents, fmt.Sprintf("<</Nums [%s]>>", numbers.String()))
	u.object(tree, fmt.Sprintf("<</Type /StructTreeRoot /K [%d 0 R] /ParentTree %d 0 R /ParentTreeNextKey %d>>",
		document, parents, len(tags)))
	u.object(catalogs[0].id, fmt.Sprintf(
		"<<%s/Version /1.7\n/MarkInfo <</Marked true>>\n/StructTreeRoot %d 0 R\n"+
			"/ViewerPreferences <</DisplayDocTitle true>>\n>>",
		catalogs[0].body, tree))
	u.close(trailer[2], trailer[3], trailer[4])
	return u.out.Bytes(), nil
}

// update is what is written behind a PDF.
type update struct {
	out     *bytes.Buffer
	next    int         // number of the next new object
	offsets map[int]int // of the objects that were written, by their number
	order   []int
}

func (u *update) reserve() int {
	u.next++
	return u.next - 1
}

func (u *update) object(id int, body string) {
	if u.offsets == nil {
		u.offsets = map[int]int{}
	}
	u.offsets[id] = u.out.Len()
	u.order = append(u.order, id)
	fmt.Fprintf(u.out, "%d 0 obj\n%s\nendobj\n", id, body)
}

func (u *update) close(root, info, before []byte) {
	start := u.out.Len()
	u.out.WriteString("xref\n")
	for _, id := range u.order {
		fmt.Fprintf(u.out, "%d 1\n%010d 00000 n \n", id, u.offsets[id])
	}
	fmt.Fprintf(u.out, "trailer\n<<\n/Size %d\n/Root %s 0 R\n/Info %s 0 R\n/Prev %s\n>>\nstartxref\n%d\n%%%%EOF\n",
		u.next, root, info, before, start)
}

func number10(digits []byte) int {
	n, _ := strconv.Atoi(string(digits)) // the pattern takes digits only
	return n
}

// textString is a text as a PDF string in UTF-16.
func textString(text string) string {
	var b strings.Builder
	b.WriteString("<FEFF")
	for _, unit := range utf16.Encode([]rune(text)) {
		fmt.Fprintf(&b, "%04X", unit)
	}
	return b.String() + ">"
}
