package shop_test

import (
	"bytes"
	"context"
	"crypto/sha256"
	"database/sql"
	"encoding/hex"
	"errors"
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"image"
	"image/png"
	"io"
	"io/fs"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	_ "modernc.org/sqlite"

	"yatai/core/head"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/internal/sample"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/bench"
	"yatai/shop/billing"
	"yatai/shop/customers"
	"yatai/shop/experience"
	"yatai/shop/fleet"
	"yatai/shop/following"
	"yatai/shop/headfile"
	"yatai/shop/intake"
	"yatai/shop/lead"
	"yatai/shop/library"
	"yatai/shop/parts"
	"yatai/shop/people"
	"yatai/shop/practising"
	"yatai/shop/quoting"
	"yatai/shop/week"
	"yatai/shop/work"
	"yatai/store"
)

// content stands for all that is in a shop's file, table by table.
func content(t *testing.T, path string) string {
	t.Helper()
	db, err := sql.Open("sqlite", path)
	require.NoError(t, err)
	defer func() { _ = db.Close() }()
	sum := sha256.New()
	for _, table := range column(
		t, db, "SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite%' ORDER BY name",
	) {
		_, _ = fmt.Fprintln(sum, table)
		for _, row := range column(t, db, "SELECT json_array("+strings.Join(column(t, db,
			"SELECT iif(type = 'BLOB', 'hex(\"' || name || '\")', '\"' || name || '\"') FROM pragma_table_info('"+table+"')"),
			", ")+") FROM "+table+" ORDER BY 1") {
			_, _ = fmt.Fprintln(sum, row)
		}
	}
	return hex.EncodeToString(sum.Sum(nil))
}

func column(t *testing.T, db *sql.DB, query string) (out []string) {
	t.Helper()
	rows, err := db.Query(query)
	require.NoError(t, err, query)
	defer func() { _ = rows.Close() }()
	for rows.Next() {
		var s string
		require.NoError(t, rows.Scan(&s))
		out = append(out, s)
	}
	require.NoError(t, rows.Err())
	return out
}

// writing is a write of the shop as somebody does it: name is its package and function, as the
// lead but where by says who else.
type writing struct {
	name string
	by   string
	do   func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error
}

// only drops an answer that the test does not look at.
func only[T any](_ T, err error) error { return err }

// writings are all writes that carry a client-made id, on heads of the demo where they can be done.
var writings = []writing{
	{"bench.Record", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return only(bench.Record(ctx, f.Shop, a, "T0407",
			bench.SweepForm{Characteristic: "valve.margin", Stage: head.AsReceived, Tool: 3, Entries: []bench.Entry{
				{ClientID: id, Spot: trade.Spot{Position: "1I1"}, Text: "1.71"},
			}}))
	}},
	{"bench.Grade", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return bench.Grade(ctx, f.Shop, a, id, "T0407", "valve.face", head.AsReceived,
			map[string]string{"1I1": trade.FaceSeen.Grades[1].Code}, nil)
	}},
	{"bench.Mark", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return bench.Mark(ctx, f.Shop, a, "T0407",
			bench.MarkForm{WriteID: id, Grade: "crack", X: "50", Y: "40", Stage: head.AsReceived})
	}},
	{"bench.TestCracks", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return bench.TestCracks(ctx, f.Shop, a, id, "T0407", bench.CrackMethods[0], "nothing")
	}},
	{"bench.PlaceParts", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return bench.PlaceParts(ctx, f.Shop, a, id, "T0407", map[string]string{"1I1/valve": "inferred"}, "its ring")
	}},
	{"bench.CheckZero", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		tool, err := bench.Tool(ctx, f.Shop, 1)
		if err != nil {
			return err
		}
		return only(bench.CheckZero(ctx, f.Shop, a, id, 1, tool.Text(tool.Standard)))
	}},
	{"bench.Release", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		file, err := headfile.Open(ctx, f.Shop, "T0401")
		if err != nil {
			return err
		}
		tool := file.Readings[0].ToolID
		t, err := bench.Tool(ctx, f.Shop, tool)
		if err != nil {
			return err
		}
		if _, err := bench.CheckZero(ctx, f.Shop, a, "zero-before-it", tool, t.Text(t.Standard+quantity.One/10)); err != nil {
			return err
		}
		return bench.Release(ctx, f.Shop, a, id, "T0401", tool, "held against another")
	}},
	{"bench.KeepStudy", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return bench.KeepStudy(ctx, f.Shop, a, 3, study(id))
	}},
	{"bench.TakeU", shop.Owner, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		if err := bench.KeepStudy(ctx, f.Shop, a, 3, study("study-before-u")); err != nil {
			return err
		}
		return bench.TakeU(ctx, f.Shop, a, id, 3, 1)
	}},
	{"bench.RecordWork", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		file, err := headfile.Open(ctx, f.Shop, "T0402")
		if err != nil {
			return err
		}
		rows := map[string]map[string]string{"": shoptest.Passing("pressure_test")}
		return bench.RecordWork(ctx, f.Shop, a, id, "T0402", shoptest.Seq(file.Operations, "pressure_test"), rows)
	}},
	{"customers.Change", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return customers.Change(ctx, f.Shop, a, 1, customers.Form{WriteID: id, Name: "Mossfield & Daughter", Language: "de"})
	}},
	{"fleet.Link", shop.Counter, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return only(fleet.Link(ctx, f.Shop, a, id, 1))
	}},
	{"fleet.EndLink", shop.Counter, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return fleet.EndLink(ctx, f.Shop, a, id, 1)
	}},
	{"experience.Take", shop.Owner, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		all, err := experience.Proposals(ctx, f.Shop, a)
		if err != nil {
			return err
		}
		return experience.Take(ctx, f.Shop, a, id, all[0].Key, all[0].Proposes())
	}},
	{"experience.Leave", shop.Owner, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		all, err := experience.Proposals(ctx, f.Shop, a)
		if err != nil {
			return err
		}
		return experience.Leave(ctx, f.Shop, a, id, all[0].Key, all[0].Proposes())
	}},
	{"library.SetNear", shop.Owner, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		row := library.LimitRow{Code: "valve.recession", Role: "exhaust"}
		return library.SetNear(ctx, f.Shop, a, id, 1, row, quantity.One/10, "by hand")
	}},
	{"practising.Begin", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return only(practising.Begin(ctx, f.Shop, a, practising.BeginForm{WriteID: id, Lesson: "bore", Exam: "4"}))
	}},
	{"practising.TakeIn", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		lead := f.People[shop.Lead]
		all, err := practising.Of(ctx, f.Shop, lead)
		if err != nil {
			return err
		}
		file, err := practising.Share(ctx, f.Shop, lead, all.Mine[0].ID, "four crowns")
		if err != nil {
			return err
		}
		return only(practising.TakeIn(ctx, f.Shop, a, id, file, "four crowns"))
	}},
	{"customers.RenameMachine", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		file, err := headfile.Open(ctx, f.Shop, "T0401")
		if err != nil {
			return err
		}
		return customers.RenameMachine(ctx, f.Shop, a, id, file.Job.CustomerID, file.Job.MachineID, "Another pump")
	}},
	{"customers.Merge", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		into, err := customers.Open(ctx, f.Shop, 2)
		if err != nil {
			return err
		}
		return only(customers.Merge(ctx, f.Shop, a, id, 1, into.Name))
	}},
	{"customers.Tell", shop.Counter, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		_, err := customers.Tell(ctx, f.Shop, a, id, 1)
		return err
	}},
	{"customers.Erase", shop.Owner, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		c, err := customers.Open(ctx, f.Shop, 1)
		if err != nil {
			return err
		}
		if c.Open > 0 { // nothing is erased while a head is here
			if err := f.Shop.Store.Write(ctx, func(tx store.DB) (err error) {
				for _, h := range c.Heads {
					err = errors.Join(err, tx.HandOver(h.ID, f.Shop.Now(), "their driver"))
				}
				return err
			}); err != nil {
				return err
			}
		}
		return customers.Erase(ctx, f.Shop, a, 1, customers.EraseForm{
			WriteID: id, Name: "Mossfield Growers", Why: "their letter of today",
		})
	}},
	{"following.Remind", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return following.Remind(ctx, f.Shop, a, id, "T0401", "2031-05-20", "torque again")
	}},
	{"following.Call", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		_, err := following.Call(ctx, f.Shop, a, following.RecallForm{
			Suspicion: following.Suspicion{By: following.ByTool, What: "1"}, WriteID: id, Tags: []string{"T0414"},
			Day: "2031-05-20", What: "read again",
		})
		return err
	}},
	{"following.Reminded", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		if err := following.Remind(ctx, f.Shop, a, "remind-before", "T0401", "2026-01-02", "torque again"); err != nil {
			return err
		}
		return following.Reminded(ctx, f.Shop, a, id, 1)
	}},
	{"intake.TakeIn", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return only(intake.TakeIn(ctx, f.Shop, a, intake.IntakeForm{
			WriteID: id, Customer: "Somebody new", Machine: "A loader", Model: "1", Kind: "rebuild", Heads: "2",
		}))
	}},
	{"intake.Import", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		file, err := headfile.Open(ctx, f.Shop, "T0401")
		if err != nil {
			return err
		}
		text, err := intake.HeadFile(file).JSON()
		if err != nil {
			return err
		}
		return only(intake.Import(ctx, f.Shop, a,
			intake.ImportForm{WriteID: id, Customer: "Somebody new", Machine: "A loader", File: text}))
	}},
	{"intake.LinkEarlier", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return intake.LinkEarlier(ctx, f.Shop, a, id, "T0405", "T0406")
	}},
	{"intake.TellSymptoms", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return intake.TellSymptoms(ctx, f.Shop, a, id, "T0407", []string{trade.Symptoms[0].Code})
	}},
	{"intake.SetLogo", shop.Owner, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		raw, err := io.ReadAll(photo())
		if err != nil {
			return err
		}
		return intake.SetLogo(ctx, f.Shop, a, id, raw)
	}},
	{"intake.AddPhoto", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return only(intake.AddPhoto(ctx, f.Shop, a, id, "T0407", "", "the face", true, photo()))
	}},
	{"intake.ShowPhoto", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		n, err := intake.AddPhoto(ctx, f.Shop, a, "photo-before-it", "T0407", "", "the face", true, photo())
		if err != nil {
			return err
		}
		return intake.ShowPhoto(ctx, f.Shop, a, id, "T0407", n, false)
	}},
	{"billing.Issue", shop.Counter, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		if err := owed(ctx, f, a); err != nil {
			return err
		}
		return billing.Issue(ctx, f.Shop, a, "T0409", billing.IssueForm{WriteID: id})
	}},
	{"billing.Credit", shop.Counter, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		if err := owed(ctx, f, a); err != nil {
			return err
		}
		if err := billing.Issue(ctx, f.Shop, a, "T0409", billing.IssueForm{WriteID: "billed-before-it"}); err != nil {
			return err
		}
		file, err := headfile.Open(ctx, f.Shop, "T0409")
		if err != nil {
			return err
		}
		acc, err := billing.AccountOf(ctx, f.Shop, file, nil)
		if err != nil {
			return err
		}
		return billing.Credit(ctx, f.Shop, a, id, "T0409", acc.Bills[len(acc.Bills)-1].Number, "the wrong one")
	}},
	{"billing.Remind", shop.Counter, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		if err := owed(ctx, f, a); err != nil {
			return err
		}
		if err := billing.Issue(ctx, f.Shop, a, "T0409", billing.IssueForm{WriteID: "billed-before-it"}); err != nil {
			return err
		}
		return billing.Remind(ctx, f.At(f.Now().AddDate(0, 2, 0)), a, "T0409",
			billing.RemindForm{WriteID: id, Told: "by telephone"})
	}},
	{"billing.Pay", shop.Counter, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return billing.Pay(ctx, f.Shop, a, "T0409", billing.PayForm{WriteID: id, Sum: "30", How: "cash", Note: "deposit"})
	}},
	{"week.KeepNote", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return week.KeepNote(ctx, f.Shop, a, id, "T0401", "called, wants it Thursday", true)
	}},
	{"week.KeepCalc", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return week.KeepCalc(ctx, f.Shop, a, id, "T0401", "length", `{"text":"7.97 mm"}`, "the stem")
	}},
	{"people.LeaveForLater", shop.Owner, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return people.LeaveForLater(ctx, f.Shop, a, id, "all")
	}},
	{"week.TakeMove", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		w, err := week.Reckon(ctx, f.Shop)
		if err != nil {
			return err
		}
		tags := shoptest.Tags(w)
		return week.TakeMove(ctx, f.Shop, a, id, tags[len(tags)-1], tags[0])
	}},
	{"lead.KeepPlan", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return lead.KeepPlan(ctx, f.Shop, a, id, "T0401", headfile.PlanAsk{})
	}},
	{"lead.Decide", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		file, err := headfile.Open(ctx, f.Shop, "T0401")
		if err != nil {
			return err
		}
		choice := map[string]lead.Choice{file.Received.Findings()[0].Key(): {Choice: trade.Leave, Reason: "read twice"}}
		return lead.Decide(ctx, f.Shop, a, id, "T0401", choice, headfile.PlanAsk{})
	}},
	{"lead.OrderWork", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		if err := decided(ctx, f, a, "T0401"); err != nil {
			return err
		}
		return lead.OrderWork(ctx, f.Shop, a, id, "T0401")
	}},
	{"lead.Scrap", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return lead.Scrap(ctx, f.Shop, a, id, "T0401", "cracked through")
	}},
	{"lead.CallCause", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		file, err := headfile.Open(ctx, f.Shop, "T0401")
		if err != nil {
			return err
		}
		rows, err := lead.Causes(ctx, f.Shop, file)
		if err != nil {
			return err
		}
		return lead.CallCause(ctx, f.Shop, a, id, "T0401", rows[0].Code, "confirmed", "seen")
	}},
	{"lead.SetSchools", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return lead.SetSchools(ctx, f.Shop, a, id, "T0401", map[string]string{"school.lapping": "always"}, nil)
	}},
	{"lead.TakeNewerSheet", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		file, err := headfile.Open(ctx, f.Shop, "T0401")
		if err != nil {
			return err
		}
		version, err := newer(ctx, f, "sheet-before-it", file.ModelID)
		if err != nil {
			return err
		}
		return lead.TakeNewerSheet(ctx, f.Shop, a, id, "T0401", version, "found later")
	}},
	{"library.AddModel", shop.Owner, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return only(library.AddModel(ctx, f.Shop, a, library.ModelForm{
			WriteID: id, Name: "Test 4", Material: "iron", Drive: "rocker", Unit: "mm", Cylinders: "4", Pattern: "IE",
			Pitch: "110", Bore: "95",
			Width: "160", IntakeHead: "40", ExhaustHead: "36", Ignition: "plug", Cooling: "water", FirstAt: "left",
		}))
	}},
	{"library.ChangeModel", shop.Owner, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		m, err := library.ModelOf(ctx, f.Shop, 1)
		if err != nil {
			return err
		}
		return library.ChangeModel(ctx, f.Shop, a, 1, library.ModelForm{
			WriteID: id, Name: "Renamed", About: "as before", Material: m.Material, Drive: m.Drive, Lifter: m.Lifter,
			Unit:     m.Unit,
			Ignition: m.Ignition, Cooling: m.Cooling,
		})
	}},
	{"library.RetireModel", shop.Owner, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return library.RetireModel(ctx, f.Shop, a, id, 1, true)
	}},
	{"library.MoveOnFace", shop.Owner, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return library.MoveOnFace(ctx, f.Shop, a, id, 1, "bolt", "1", "20", "20", "12")
	}},
	{"library.CopyModel", shop.Owner, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return only(library.CopyModel(ctx, f.Shop, a, id, 1, "A copy"))
	}},
	{"library.EditSheet", shop.Owner, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return only(newer(ctx, f, id, 1))
	}},
	{"library.ConfirmSheet", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		version, err := newer(ctx, f, "sheet-before-it", 1)
		if err != nil {
			return err
		}
		return library.ConfirmSheet(ctx, f.Shop, a, id, 1, version)
	}},
	{"library.AddOwn", shop.Owner, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return library.AddOwn(ctx, f.Shop, a, 1, library.OwnForm{
			WriteID: id, Label: "Depth of the relief", Spot: trade.Wheres[0], Unit: "length", Stat: headfile.OwnStats[0],
			ToolKind: library.ToolKinds()[0],
		})
	}},
	{"library.SetTightening", shop.Owner, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return library.SetTightening(ctx, f.Shop, a, 1, tightened(id))
	}},
	{"library.AddRepair", shop.Owner, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return library.AddRepair(ctx, f.Shop, a, 1, capTips(id))
	}},
	{"library.DropRepair", shop.Owner, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		code, err := withCapTips(ctx, f)
		if err != nil {
			return err
		}
		return library.DropRepair(ctx, f.Shop, a, id, 1, code)
	}},
	{"library.AddTool", shop.Owner, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return library.AddTool(ctx, f.Shop, a, library.ToolForm{
			WriteID: id, Name: "Spare micrometer", Kind: library.ToolKinds()[0], Resolution: "0.001", U: "0.004",
		})
	}},
	{"library.ChangeTool", shop.Owner, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		tool, err := bench.Tool(ctx, f.Shop, 3)
		if err != nil {
			return err
		}
		return library.ChangeTool(ctx, f.Shop, a, 3,
			library.ToolForm{WriteID: id, Name: "The other one", Kind: tool.Kind, Resolution: "0.001", U: "0.01"})
	}},
	{"library.RetireTool", shop.Owner, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return library.RetireTool(ctx, f.Shop, a, id, 3, true)
	}},
	{"library.SetLabour", shop.Owner, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return library.SetLabour(ctx, f.Shop, a, id, map[string]string{trade.MinutesOf + "wash": "30+0"})
	}},
	{"parts.AddStock", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return parts.AddStock(ctx, f.Shop, a, parts.StockForm{
			WriteID: id, Kind: "gasket", Name: "A spare gasket", Price: "12.50", Count: "2",
		})
	}},
	{"parts.ChangeStock", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		row, err := firstStock(ctx, f)
		if err != nil {
			return err
		}
		return parts.ChangeStock(ctx, f.Shop, a, row.ID,
			parts.StockForm{WriteID: id, Kind: row.Kind, Name: "Renamed part", Price: "9.00"})
	}},
	{"parts.CountStock", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return parts.CountStock(ctx, f.Shop, a, id, 1, "17", "counted")
	}},
	{"parts.Order", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return parts.Order(ctx, f.Shop, a, id, 1, "4", "")
	}},
	{"parts.ChangeOrder", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		if err := parts.Order(ctx, f.Shop, a, "ordered-before-it", 1, "4", ""); err != nil {
			return err
		}
		page, err := parts.Stock(ctx, f.Shop)
		if err != nil {
			return err
		}
		return parts.ChangeOrder(ctx, f.Shop, a, id, page.Orders[0].ID, "2031-05-20", false, "")
	}},
	{"parts.Receive", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		orders, err := f.Store.Read(ctx).PartOrders()
		if err != nil {
			return err
		}
		for _, o := range orders {
			if err = parts.Receive(ctx, f.Shop, a,
				parts.Receipt{WriteID: id, Order: o.ID, Measured: "none like it", OK: false}); err == nil {
				break
			}
		}
		return err
	}},
	{"parts.Return", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		if err := parts.Order(ctx, f.Shop, a, "ordered-before-it", 1, "4", ""); err != nil {
			return err
		}
		page, err := parts.Stock(ctx, f.Shop)
		if err != nil {
			return err
		}
		order := page.Orders[0]
		if order.ReceivedAt == nil {
			it, size := page.Orders[0].Item, "8.94"
			if it.SizeNM > 0 {
				size = it.SizeNM.String()
			}
			receipt := parts.Receipt{WriteID: "received-before-it", Order: order.ID, Measured: size, OK: true}
			if err := parts.Receive(ctx, f.Shop, a, receipt); err != nil {
				return err
			}
		}
		return parts.Return(ctx, f.Shop, a, id, order.ID, "2", "the wrong ones after all")
	}},
	{"people.AddPerson", shop.Owner, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return people.AddPerson(ctx, f.Shop, a,
			people.PersonForm{WriteID: id, Name: "Tam", Role: shop.Technician, Password: "quiet-river-9", Unit: "mm"})
	}},
	{"people.ChangePerson", shop.Owner, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		who := f.People[shop.Technician]
		return people.ChangePerson(ctx, f.Shop, a, who.ID, true,
			people.PersonForm{WriteID: id, Name: who.Name, Role: shop.Lead, Unit: "in"})
	}},
	{"people.ChangeOwn", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return people.ChangeOwn(ctx, f.Shop, a, "tarn-street-1", people.PersonForm{WriteID: id, PIN: "9753"})
	}},
	{"people.SetWork", shop.Owner, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		form := people.WorkForm{WriteID: id, Hours: "Mon-Fri 8:00-12:00", Skills: []string{"wash"}}
		return people.SetWork(ctx, f.Shop, a, f.People[shop.Technician].ID, form, func(string) bool { return true })
	}},
	{"people.UnlockPIN", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return people.UnlockPIN(ctx, f.Shop, a, id, f.People[shop.Technician].ID)
	}},
	{"people.RevokeStation", shop.Owner, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		err := people.RevokeStation(ctx, f.Shop, a, id, 1)
		if errors.Is(err, shop.ErrNotFound) {
			if _, err := people.EnrolStation(ctx, f.Shop, a, "bench by the door"); err != nil {
				return err
			}
			err = people.RevokeStation(ctx, f.Shop, a, id, 1)
		}
		return err
	}},
	{"quoting.MakeQuote", shop.Counter, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		if err := decided(ctx, f, f.People[shop.Lead], "T0401"); err != nil {
			return err
		}
		return only(quoting.MakeQuote(ctx, f.Shop, a, id, "T0401", quoting.Draft{Note: "as told"}))
	}},
	{"quoting.SendQuote", shop.Counter, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		version, err := quoted(ctx, f, a)
		if err != nil {
			return err
		}
		return quoting.SendQuote(ctx, f.Shop, a, "T0401", quoting.SendForm{
			WriteID: id, Version: version, To: "grower@mossfield.invalid", Here: "http://127.0.0.1:8080", Follow: true,
		})
	}},
	{"quoting.YesAtOnce", shop.Owner, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		if err := decided(ctx, f, a, "T0401"); err != nil {
			return err
		}
		return quoting.YesAtOnce(ctx, f.Shop, a, id, "T0401", "the grower")
	}},
	{
		"quoting.ApproveVerbally", shop.Counter,
		func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
			version, err := quoted(ctx, f, a)
			if err != nil {
				return err
			}
			return quoting.ApproveVerbally(ctx, f.Shop, a, id, "T0401", version, quoting.Answer{Name: "The grower", Must: true},
				"by telephone")
		},
	},
	{"shop.SetSettings", shop.Owner, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return f.SetSettings(ctx, a, id, map[string]string{"rate": "71.00"}, nil)
	}},
	{"week.SetStations", shop.Owner, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return week.SetStations(ctx, f.Shop, a, id,
			map[uint]week.StationForm{1: {Capacity: "2", Hours: "Mon-Fri 8:00-16:00"}}, "2031-12-24")
	}},
	{"week.SetUrgency", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return week.SetUrgency(ctx, f.Shop, a, id, "T0401", 3)
	}},
	{"week.TakeOrder", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		w, err := week.Reckon(ctx, f.Shop)
		if err != nil {
			return err
		}
		order := shoptest.Tags(w)
		slices.Sort(order)
		return week.TakeOrder(ctx, f.Shop, a, id, order)
	}},
	{"work.Start", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		_, _, err := start(ctx, f, a, id)
		return err
	}},
	{"work.Join", shop.Owner, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		tag, seq, err := start(ctx, f, f.People[shop.Lead], "started-before")
		if err != nil {
			return err
		}
		return work.Join(ctx, f.Shop, a, id, tag, seq, work.Pauses)
	}},
	{"work.WithSetUp", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		tag, seq, err := start(ctx, f, a, "started-before")
		if err != nil {
			return err
		}
		return work.WithSetUp(ctx, f.Shop, a, id, tag, seq, "cutter C3")
	}},
	{"work.Pause", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		tag, seq, err := start(ctx, f, a, "started-before")
		if err != nil {
			return err
		}
		return work.Pause(ctx, f.Shop, a, id, tag, seq)
	}},
	{"work.Finish", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		tag, seq, err := start(ctx, f, a, "started-before")
		if err != nil {
			return err
		}
		return work.Finish(ctx, f.Shop, a, id, tag, seq, "nothing to write down", "")
	}},
	{"work.Skip", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return first(ctx, f, func(tag string, seq int) error {
			return work.Skip(ctx, f.Shop, a, id, tag, seq, "done by the customer")
		})
	}},
	{"work.Stopped", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		tag, seq, err := start(ctx, f, a, "started-before")
		if err != nil {
			return err
		}
		file, err := headfile.Open(ctx, f.Shop, tag)
		if err != nil {
			return err
		}
		o, err := file.Operation(seq)
		if err != nil {
			return err
		}
		stints, err := f.Store.Read(ctx).Stints(o.ID)
		if err != nil {
			return err
		}
		st := stints[len(stints)-1]
		return work.Stopped(ctx, f.At(st.StartedAt.Add(30*time.Hour)), a, id, st.ID,
			st.StartedAt.Local().Add(time.Minute).Format("15:04"))
	}},
	{"work.AddOperation", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return work.AddOperation(ctx, f.Shop, a, id, "T0415", trade.FitGuide.Code, "1I1", "it came loose")
	}},
	{"people.SetRole", shop.Owner, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return people.SetRole(ctx, f.Shop, a, f.People[shop.Technician].ID,
			people.PersonForm{WriteID: id, Name: "Ilka B", Role: shop.Lead})
	}},
	{"library.CorrectKind", shop.Owner, func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		form := library.ModelForm{
			WriteID: "a-model-before-it", Name: "Barge 2", Material: "iron", Drive: "rocker", Unit: "mm", Ignition: "plug",
			Cooling: "water",
			FirstAt: "left", Cylinders: "2", Pattern: "IE", Pitch: "112", Bore: "98", Width: "164", IntakeHead: "42",
			ExhaustHead: "38",
		}
		model, err := library.AddModel(ctx, f.Shop, a, form)
		if err != nil {
			return err
		}
		form.WriteID, form.Lifter, form.Drive = id, "solid", "bucket"
		return library.CorrectKind(ctx, f.Shop, a, model, form)
	}},
	{"intake.Correct", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		file, err := headfile.Open(ctx, f.Shop, "T0407")
		if err != nil {
			return err
		}
		c := intake.Correction{IntakeForm: intake.FormOf(file)}
		c.WriteID, c.Marks = id, "K 77"
		return intake.Correct(ctx, f.Shop, a, "T0407", c)
	}},
	{"work.EndHead", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		return work.EndHead(ctx, f.Shop, a, "T0413",
			work.EndForm{WriteID: id, Kind: "refused", State: "in parts", Why: "too dear", Owed: "20"})
	}},
	{"work.Rework", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		leak := bench.MarkForm{WriteID: "leak-before", Grade: "leak", Stage: headfile.AfterRepair, X: "60", Y: "40"}
		if err := bench.Mark(ctx, f.Shop, a, "T0415", leak); err != nil {
			return err
		}
		file, err := headfile.Open(ctx, f.Shop, "T0415")
		if err != nil {
			return err
		}
		for _, x := range file.Now.Findings() {
			if strings.HasPrefix(x.Code, trade.MarkCode) {
				return work.Rework(ctx, f.Shop, a, id, "T0415", x.Key(), file.Now.Usual(x).Code, "")
			}
		}
		return errors.New("no leak")
	}},
	{"work.MoveUp", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		file, err := headfile.Open(ctx, f.Shop, "T0415")
		if err != nil {
			return err
		}
		for _, o := range file.Operations {
			if err = work.MoveUp(ctx, f.Shop, a, id, "T0415", o.Seq); err == nil {
				break
			}
		}
		return err
	}},
	{"work.SignDeviation", "", func(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) error {
		file, err := headfile.Open(ctx, f.Shop, "T0402")
		if err != nil {
			return err
		}
		for _, x := range file.Now.Findings() {
			if err = work.SignDeviation(ctx, f.Shop, a, id, "T0402", x.Key(), "the owner knows"); err == nil {
				break
			}
		}
		return err
	}},
}

// photo is a small picture.
func photo() *bytes.Buffer {
	var b bytes.Buffer
	if err := png.Encode(&b, image.NewGray(image.Rect(0, 0, 40, 30))); err != nil {
		panic(err) // a buffer takes everything
	}
	return &b
}

// study is two people reading two parts twice.
func study(id string) bench.StudyForm {
	f := bench.StudyForm{
		WriteID: id, What: "stems", People: []string{"Ilka", "Odo"}, Parts: 2, Trials: 2, Cells: map[string]string{},
	}
	for person := range 2 {
		for part := range 2 {
			for trial := range 2 {
				f.Cells[fmt.Sprintf("%d.%d.%d", person, part, trial)] = fmt.Sprintf("7.%02d%d", 90+part, person+trial)
			}
		}
	}
	return f
}

// decided has every finding of a head decided, once.
func decided(ctx context.Context, f *shoptest.Fixture, a shop.Actor, tag string) error {
	if err := lead.KeepPlan(ctx, f.Shop, a, "plan-before-"+tag, tag, headfile.PlanAsk{}); err != nil {
		return err
	}
	file, err := headfile.Open(ctx, f.Shop, tag)
	if err != nil {
		return err
	}
	choices := map[string]lead.Choice{}
	for _, x := range file.Received.Findings() {
		if _, done := file.Decision(x.Key()); !done {
			choices[x.Key()] = lead.Choice{Choice: trade.Leave, Reason: "read twice"}
		}
	}
	return lead.Decide(ctx, f.Shop, a, "decided-before-"+tag, tag, choices, headfile.PlanAsk{})
}

// quoted has T0401 decided and quoted, once.
func quoted(ctx context.Context, f *shoptest.Fixture, a shop.Actor) (version int, err error) {
	if err := decided(ctx, f, f.People[shop.Lead], "T0401"); err != nil {
		return 0, err
	}
	return quoting.MakeQuote(ctx, f.Shop, a, "quoted-before", "T0401", quoting.Draft{})
}

// start begins the first operation that may be, and says which.
func start(ctx context.Context, f *shoptest.Fixture, a shop.Actor, id string) (tag string, seq int, err error) {
	err = first(ctx, f, func(t string, n int) error {
		tag, seq = t, n
		return work.Start(ctx, f.Shop, a, id, t, n, work.Pauses)
	})
	return tag, seq, err
}

// any1 does something to the first operation that lets it be done.
func first(ctx context.Context, f *shoptest.Fixture, do func(tag string, seq int) error) (err error) {
	for _, tag := range []string{"T0415", "T0405", "T0402"} {
		file, err := headfile.Open(ctx, f.Shop, tag)
		if err != nil {
			return err
		}
		for _, o := range file.Operations {
			if err = do(tag, o.Seq); err == nil || errors.Is(err, shop.ErrForbidden) ||
				strings.Contains(err.Error(), "load the page again") {
				return err
			}
		}
	}
	return shop.ErrNotFound
}

// newer writes another version of a model's sheet, once, and returns it.
func newer(ctx context.Context, f *shoptest.Fixture, id string, model uint) (int, error) {
	m, err := library.ModelOf(ctx, f.Shop, model)
	if err != nil {
		return 0, err
	}
	row := map[string]library.LimitEntry{"valve.margin/intake": {Low: "1.1", Source: "leaflet"}}
	return library.EditSheet(ctx, f.Shop, f.People[shop.Owner], model, library.SheetForm{
		WriteID: id, Version: m.Sheet.Version, Set: head.Service, Note: "found", Rows: row,
	})
}

func firstStock(ctx context.Context, f *shoptest.Fixture) (parts.StockRow, error) {
	page, err := parts.Stock(ctx, f.Shop)
	if err != nil {
		return parts.StockRow{}, err
	}
	return page.Rows[0], nil
}

// TestWhatIsSentTwiceIsWrittenOnce does every write, and again with the same id as after an answer
// that was lost on its way: it succeeds, and not a row of the file is another.
func TestWhatIsSentTwiceIsWrittenOnce(t *testing.T) {
	for _, w := range sample.Every(3, writings) {
		t.Run(w.name, func(t *testing.T) {
			f := shoptest.Open(t)
			a := f.People[shop.Lead]
			if w.by != "" {
				a = f.People[w.by]
			}
			empty := content(t, f.Path)
			require.NoError(t, w.do(t.Context(), f, a, "twice-write-1"))
			once := content(t, f.Path)
			assert.NotEqual(t, empty, once, "it writes something")
			require.NoError(t, w.do(t.Context(), f, a, "twice-write-1"), "the same again")
			assert.Equal(t, once, content(t, f.Path))
			err := w.do(t.Context(), f, a, "short")
			assert.ErrorContains(t, err, "load the page again", "without an id nothing is written")
		})
	}
}

// unwritten are writes that carry an id and are tried elsewhere: what a tablet or a customer sends,
// what needs a head that is done, and files of tables.
var unwritten = []string{
	"inout.Take", "inout.Undo", "quoting.Approve", "work.Prove", "work.Resume", "work.CloseHead", "work.HandOver",
	"week.TakeBar",
}

// TestEveryWriteIsTriedTwice reads the shop's source for functions that are given a client-made id.
func TestEveryWriteIsTriedTwice(t *testing.T) {
	tried := slices.Clone(unwritten)
	for _, w := range writings {
		tried = append(tried, w.name)
	}
	err := filepath.WalkDir(".", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return err
		}
		file, err := parser.ParseFile(token.NewFileSet(), path, nil, 0)
		require.NoError(t, err)
		for _, decl := range file.Decls {
			fn, ok := decl.(*ast.FuncDecl)
			if !ok || !fn.Name.IsExported() || fn.Recv != nil {
				continue
			}
			for _, p := range fn.Type.Params.List {
				if slices.ContainsFunc(p.Names, func(n *ast.Ident) bool { return n.Name == "writeID" }) {
					if name := file.Name.Name + "." + fn.Name.Name; !slices.Contains([]string{"headfile.OnHead"}, name) {
						assert.Contains(t, tried, name)
					}
				}
			}
		}
		return nil
	})
	require.NoError(t, err)
}

// owed ends T0409 with something owed for it.
func owed(ctx context.Context, f *shoptest.Fixture, a shop.Actor) error {
	form := work.EndForm{WriteID: "ended-before-it", Kind: "refused", State: "whole", Owed: "45.00", Why: "too dear"}
	return work.EndHead(ctx, f.Shop, a, "T0409", form)
}

// capTips is a repair of the shop's own for the demo's first model.
func capTips(id string) library.OwnRepairForm {
	return library.OwnRepairForm{
		WriteID: id, Name: "Cap the tips", Works: string(trade.TipMetal), Station: trade.Assembly, Minutes: "5+4",
		Least: "0.1", Most: "0.8",
		Moves: map[string]string{"stem.height": "up", "lash": "down"},
	}
}

// withCapTips declares it, and returns its code.
func withCapTips(ctx context.Context, f *shoptest.Fixture) (string, error) {
	if err := library.AddRepair(ctx, f.Shop, f.People[shop.Owner], 1, capTips("cap-the-tips-first")); err != nil {
		return "", err
	}
	m, err := library.ModelOf(ctx, f.Shop, 1)
	return m.OwnRepairs, err
}

// tightened is how rocker pedestals and head bolts are pulled down.
func tightened(id string) library.TighteningForm {
	return library.TighteningForm{WriteID: id, Rows: map[string]library.TighteningRow{
		"rocker_pedestals": {Count: "5", Steps: "10 Nm; 25 Nm", Source: "sheet 5"},
		"head_bolts":       {Count: "10", Steps: "40 Nm, 80 Nm, 90 deg", How: "oiled", Order: "2 1 3", Source: "sheet 5"},
	}}
}
