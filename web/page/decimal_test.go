package page

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestAPageWithCommas(t *testing.T) {
	for _, c := range []struct{ page, want string }{
		{
			`<p class="a1.5">cut <b>0.25 mm</b> &#39;0.3&#39;</p>`,
			`<p class="a1.5">cut <b>0,25 mm</b> &#39;0,3&#39;</p>`,
		},
		{
			`<input value="0.25"> 0.25`,
			`<input value="0.25"> 0,25`,
		},
		{
			`<option>2.40</option><option value="1">2.40</option> 2.40`,
			`<option>2.40</option><option value="1">2.40</option> 2,40`,
		},
		{
			`<pre>{"a": 0.5, "b": [<b>1.5</b>]}</pre>1.5<textarea>1.5</textarea><kbd>0.05</kbd>`,
			`<pre>{"a": 0.5, "b": [<b>1.5</b>]}</pre>1,5<textarea>1.5</textarea><kbd>0.05</kbd>`,
		},
		{
			`<script>let x = 1.5;</script><style>a{top:1.5em}</style>1.5`,
			`<script>let x = 1.5;</script><style>a{top:1.5em}</style>1,5`,
		},
		{
			`<svg viewBox="0 0 1.5 2"><text x="1.5">0.04</text><path d="M1.5 2"/></svg>`,
			`<svg viewBox="0 0 1.5 2"><text x="1.5">0,04</text><path d="M1.5 2"/></svg>`,
		},
		{
			`<!doctype html><!-- 1.5 --><p>1.5`,
			`<!doctype html><!-- 1.5 --><p>1,5`,
		},
		{
			``,
			``,
		},
	} {
		assert.Equal(t, c.want, string(withCommas([]byte(c.page))))
	}
}

func BenchmarkWithCommas(b *testing.B) {
	page := []byte{}
	for range 2000 {
		page = append(page, `<tr><td class="fig">0.040 to 0.095 mm</td><td>sound</td></tr>`...)
	}
	b.SetBytes(int64(len(page)))
	for b.Loop() {
		withCommas(page)
	}
}
