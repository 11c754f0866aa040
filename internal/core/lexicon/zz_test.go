package lexicon
import ("testing";"fmt";"regexp";"sort")
func TestZ(t *testing.T){
 el:=map[string]int{}; at:=map[string]int{}
 re:=regexp.MustCompile(`<([a-zA-Z]+)`); ra:=regexp.MustCompile(` ([a-zA-Z:-]+)="`)
 n:=0
 for _,w:=range allPictureWords() { s,_:=Picture(w); n++; for _,m:=range re.FindAllStringSubmatch(s,-1){el[m[1]]++}; for _,m:=range ra.FindAllStringSubmatch(s,-1){at[m[1]]++} }
 fmt.Println(n,el); k:=[]string{}; for a:=range at{k=append(k,a)}; sort.Strings(k); for _,a:=range k{fmt.Print(a,"=",at[a]," ")}; fmt.Println()
}
