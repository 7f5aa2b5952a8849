package quoting_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/field"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/following"
	"yatai/shop/headfile"
	"yatai/shop/intake"
	"yatai/shop/quoting"
)

// pair takes in two heads of one order, each with a quote of one line.
func pair(t *testing.T, f *shoptest.Fixture) (tags [2]string) {
	t.Helper()
	front := f.People[shop.Counter]
	first, err := intake.TakeIn(t.Context(), f.Shop, front, intake.IntakeForm{
		WriteID: shoptest.ID(), Customer: "Weir Rowing Club", Machine: "Launch", Model: "1", Kind: "rebuild", Heads: "2",
		Marks: "port; starboard",
	})
	require.NoError(t, err)
	tags[0] = first
	order, err := quoting.OrderOf(t.Context(), f.Shop, f.File(t, first))
	require.NoError(t, err)
	tags[1] = order.Others[0].Tag
	least := map[string]string{"minimum": "900.00"}
	require.NoError(t, f.SetSettings(t.Context(), f.People[shop.Owner], shoptest.ID(), least, nil))
	for i, tag := range tags {
		_, err := quoting.MakeQuote(t.Context(), f.Shop, front, shoptest.ID(), tag, quoting.Draft{
			Free: []string{"Fetched = 4.00\ncould: Painted = 20.00", "Fetched = 4.00\ncould: Painted = 30.00"}[i],
		})
		require.NoError(t, err)
	}
	return tags
}

// token is that of the link in the newest mail.
func token(t *testing.T, f *shoptest.Fixture) string {
	t.Helper()
	mails, err := following.Mails(t.Context(), f.Shop)
	require.NoError(t, err)
	return strings.Fields(mails[0].Body[strings.Index(mails[0].Body, "/q/")+3:])[0]
}

// TestTwoHeadsOfAPairAreOneQuote sends the quotes of a pair under one link: one mail, one sum with the least
// charge asked once, one answer; what each head is billed adds up to the sum that was said.
func TestTwoHeadsOfAPairAreOneQuote(t *testing.T) {
	f := shoptest.Open(t)
	ctx, front := t.Context(), f.People[shop.Counter]
	tags := pair(t, f)
	form := quoting.SendForm{WriteID: shoptest.ID(), Version: 1, To: "the club", With: []string{"T0401"}}
	var errs field.Errors
	require.ErrorAs(t, quoting.SendQuote(ctx, f.Shop, front, tags[0], form), &errs)
	assert.Contains(t, errs.Message("with"), "T0401 has no quote of this order")
	form.With = []string{tags[0]}
	require.ErrorAs(t, quoting.SendQuote(ctx, f.Shop, front, tags[0], form), &errs, "with itself")
	form.With = []string{tags[1]}
	require.NoError(t, quoting.SendQuote(ctx, f.Shop, front, tags[0], form))

	mails, err := following.Mails(ctx, f.Shop)
	require.NoError(t, err)
	assert.Contains(t, mails[0].Subject, tags[0]+", "+tags[1])
	link := token(t, f)
	together, err := quoting.QuotesByToken(ctx, f.Shop, link)
	require.NoError(t, err)
	require.Len(t, together, 2)
	alone := together[0].Q.Totals(headfile.Must)
	require.Positive(t, alone.Minimum, "one head alone costs the least charge")
	must := together.Totals(headfile.Must)
	assert.Equal(t, alone.Net+together[1].Q.Totals(headfile.Must).Net, must.Net)
	assert.Equal(t, alone.Gross, must.Gross, "and so do two that are small together")

	painted := together[1].Q.Group(headfile.Could)[0]
	yes := quoting.Answer{Name: "The coach", Must: true, Yes: []quoting.Line{{Tag: tags[1], Seq: painted.Seq}}}
	require.NoError(t, quoting.Approve(ctx, f.Shop, shoptest.ID(), link, yes))
	a, b := f.File(t, tags[0]).Approved.Quotes[0], f.File(t, tags[1]).Approved.Quotes[0]
	assert.False(t, a.Answers[painted.Seq], "it was ticked for the other")
	assert.True(t, b.Answers[painted.Seq])
	together, err = quoting.QuotesByToken(ctx, f.Shop, link)
	require.NoError(t, err)
	said := together.Totals()
	assert.Equal(t, must.Net+painted.Cents(), said.Net)
	assert.Equal(t, said.Gross, a.Totals().Gross+b.Totals().Gross, "what each is billed adds up")
	assert.ErrorContains(t, quoting.Approve(ctx, f.Shop, shoptest.ID(), link, yes), "frozen")
}

// TestOneOfAPairCanStillBeQuotedAlone sends a pair's quotes together and then one of them alone: the newer link
// holds for that head, the older one for the other.
func TestOneOfAPairCanStillBeQuotedAlone(t *testing.T) {
	f := shoptest.Open(t)
	ctx, front := t.Context(), f.People[shop.Counter]
	tags := pair(t, f)
	form := quoting.SendForm{WriteID: shoptest.ID(), Version: 1, To: "the club", With: tags[1:]}
	require.NoError(t, quoting.SendQuote(ctx, f.Shop, front, tags[0], form))
	both := token(t, f)
	require.NoError(t, quoting.SendQuote(ctx, f.Shop, front, tags[1],
		quoting.SendForm{WriteID: shoptest.ID(), Version: 1, To: "its owner"}))
	left, err := quoting.QuotesByToken(ctx, f.Shop, both)
	require.NoError(t, err)
	require.Len(t, left, 1)
	assert.Equal(t, tags[0], left[0].Tag)

	// what was said at the counter counts for what is still together, and only for that
	no := quoting.Answer{Name: "The coach", No: true}
	require.NoError(t, quoting.ApproveVerbally(ctx, f.Shop, front, shoptest.ID(), tags[0], 1, no, "at the counter"))
	assert.Nil(t, f.File(t, tags[1]).Approved.Quotes[0].Approval)
	require.NoError(
		t, quoting.Approve(ctx, f.Shop, shoptest.ID(), token(t, f), quoting.Answer{Name: "Its owner", Must: true}),
	)
	assert.NotNil(t, f.File(t, tags[1]).Approved.Quotes[0].Approval)
}

// TestAPairIsAnsweredAtTheCounter records one answer for both heads of a pair.
func TestAPairIsAnsweredAtTheCounter(t *testing.T) {
	f := shoptest.Open(t)
	ctx, front := t.Context(), f.People[shop.Counter]
	tags := pair(t, f)
	form := quoting.SendForm{WriteID: shoptest.ID(), Version: 1, To: "the club", With: tags[1:]}
	require.NoError(t, quoting.SendQuote(ctx, f.Shop, front, tags[0], form))
	order, err := quoting.OrderOf(ctx, f.Shop, f.File(t, tags[1]))
	require.NoError(t, err)
	assert.Equal(t, tags[1]+", "+tags[0], order.With.Tags())
	yes := quoting.Answer{Name: "The coach", Must: true}
	require.NoError(t, quoting.ApproveVerbally(ctx, f.Shop, front, shoptest.ID(), tags[1], 1, yes, "at the counter"))
	for _, tag := range tags {
		require.NotNil(t, f.File(t, tag).Approved.Quotes[0].Approval, tag)
	}
}
