package main

import (
	"bytes"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestCalcCommand(t *testing.T) {
	rock := `{"movement":"0.25mm","guide_length":"48mm","overhang":"22mm"}`
	file := filepath.Join(t.TempDir(), "rock.json")
	require.NoError(t, os.WriteFile(file, []byte(rock), 0o600))
	for _, c := range []struct {
		args        []string
		in          string
		code        int
		out, errOut string
	}{
		{[]string{"rock"}, rock, 0, `"clearance_nm": 130435`, ""},
		{[]string{"rock", file}, "", 0, `"clearance_nm": 130435`, ""},
		{[]string{"rock", "--steps"}, rock, 0, "130435", "0.25 mm x 48 mm"},
		{nil, "", 0, "flatness", ""},
		{[]string{"--help"}, "", 0, "flatness", ""},
		{[]string{"seat", "--help"}, "", 0, "target_width", ""},
		{[]string{"rock"}, `{"movement":"0.25mm"}`, 2, "", `{"error":{"field":"guide_length"`},
		{[]string{"nosuch"}, `{}`, 2, "", `"field":"calc"`},
		{[]string{"nosuch", "--help"}, ``, 2, "", `"field":"calc"`},
		{[]string{"rock", file + ".none"}, "", 2, "", "no such file"},
		{[]string{"rock", file, "more"}, "", 2, "", "too many"},
	} {
		var out, errOut bytes.Buffer
		assert.Equal(t, c.code, runCalc(c.args, strings.NewReader(c.in), &out, &errOut), c.args)
		assert.Contains(t, out.String(), c.out, c.args)
		assert.Contains(t, errOut.String(), c.errOut, c.args)
	}
}
