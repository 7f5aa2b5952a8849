package paper

import (
	"bytes"
	"fmt"

	"github.com/pdfcpu/pdfcpu/pkg/api"
	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/model"
	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"
)

// A tagged document tells a reader for the blind what is a heading, a paragraph, a row of a table
// or a picture, in reading order. What is written is marked on its page while the page is written;
// the tree that names the marks is put into the finished file.

// node is a part of a document: H1, H2, P, Table, TR, TH, TD or Figure, what a picture shows, and
// what it is made of: other nodes, and marks on pages.
type node struct {
	kind  string
	alt   string
	nodes []*node
	marks []mark
}

// mark is content on a page, counted from 1, by its number there.
type mark struct{ page, id int }

// under starts a part of n.
func (n *node) under(kind string) *node {
	k := &node{kind: kind}
	n.nodes = append(n.nodes, k)
	return k
}

// start begins a part of the document itself; a table that was open has ended.
func (s *sheet) start(kind string) *node {
	s.table = nil
	return s.doc.under(kind)
}

// marked writes content of a node on the page that is open. write must not begin another.
func (s *sheet) marked(n *node, write func()) {
	m := mark{page: s.PageNo(), id: s.marks[s.PageNo()]}
	s.marks[m.page]++
	n.marks = append(n.marks, m)
	s.RawWriteStr(fmt.Sprintf("/%s <</MCID %d>> BDC", n.kind, m.id))
	write()
	s.RawWriteStr("EMC")
}

// aside writes what a reader aloud leaves out: rules, page numbers.
func (s *sheet) aside(write func()) {
	s.RawWriteStr("/Artifact BMC")
	write()
	s.RawWriteStr("EMC")
}

func init() { api.DisableConfigDir() } // pages are made without a file in somebody's home

// tagged puts the tree of a document into the file that was written.
func tagged(file []byte, doc *node) ([]byte, error) {
	conf := model.NewDefaultConfiguration()
	conf.WriteObjectStream, conf.WriteXRefStream = false, false // as fpdf writes them
	ctx, err := api.ReadContext(bytes.NewReader(file), conf)
	if err != nil {
		return nil, err
	}
	x := ctx.XRefTable
	if err := x.EnsurePageCount(); err != nil {
		return nil, err
	}
	t := tree{
		table: x, parents: make([]types.Array, x.PageCount+1),
		pages: make([]types.IndirectRef, x.PageCount+1),
	}
	for i := 1; i <= x.PageCount; i++ {
		page, ref, _, err := x.PageDict(i, false)
		if err != nil {
			return nil, err
		}
		t.pages[i] = *ref
		page.Insert("StructParents", types.Integer(i-1))
		page.Insert("Tabs", types.Name("S"))
	}
	root := types.Dict{"Type": types.Name("StructTreeRoot")}
	ref, err := x.IndRefForNewObject(root)
	if err != nil {
		return nil, err
	}
	top, err := t.put(doc, *ref)
	if err != nil {
		return nil, err
	}
	numbers := types.Array{}
	for i := 1; i <= x.PageCount; i++ {
		numbers = append(numbers, types.Integer(i-1), t.parents[i])
	}
	root["K"], root["ParentTree"] = types.Array{*top}, types.Dict{"Nums": numbers}
	root["ParentTreeNextKey"] = types.Integer(x.PageCount)
	catalog, err := x.Catalog()
	if err != nil {
		return nil, err
	}
	catalog["StructTreeRoot"], catalog["MarkInfo"] = *ref, types.Dict{"Marked": types.Boolean(true)}
	catalog["ViewerPreferences"] = types.Dict{"DisplayDocTitle": types.Boolean(true)}
	var b bytes.Buffer
	err = api.WriteContext(ctx, &b)
	return b.Bytes(), err
}

// tree is a document's tree being put into a file: for each page the parts that its marks belong to.
type tree struct {
	table   *model.XRefTable
	pages   []types.IndirectRef
	parents []types.Array
}

// put writes a part under its parent, with all that is under it.
func (t *tree) put(n *node, parent types.IndirectRef) (*types.IndirectRef, error) {
	d := types.Dict{"Type": types.Name("StructElem"), "S": types.Name(n.kind), "P": parent}
	if n.alt != "" {
		said, err := types.EscapedUTF16String(n.alt)
		if err != nil {
			return nil, err
		}
		d["Alt"] = types.StringLiteral(*said)
	}
	ref, err := t.table.IndRefForNewObject(d)
	if err != nil {
		return nil, err
	}
	kids := types.Array{}
	for _, m := range n.marks {
		kids = append(
			kids, types.Dict{"Type": types.Name("MCR"), "Pg": t.pages[m.page], "MCID": types.Integer(m.id)},
		)
		for len(t.parents[m.page]) <= m.id {
			t.parents[m.page] = append(t.parents[m.page], nil)
		}
		t.parents[m.page][m.id] = *ref
	}
	for _, k := range n.nodes {
		r, err := t.put(k, *ref)
		if err != nil {
			return nil, err
		}
		kids = append(kids, *r)
	}
	d["K"] = kids
	return ref, nil
}
