package table_test

import (
	"bytes"
	"encoding/csv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/text/encoding/charmap"
	"pgregory.net/rapid"

	"nineyard/core/invalid"
	"nineyard/internal/platform/table"
)

func TestReadTable(t *testing.T) {
	want := [][]string{{"07", "Sörli, Åke", `6'2"`}, {"7A", "Quill", "188 cm"}}
	quoted := "No;Name;Ht\r\n07;\"Sörli, Åke\";\"6'2\"\"\"\r\n\r\n;;\r\n7A;Quill;188 cm\r\n"
	cp1252, err := charmap.Windows1252.NewEncoder().String(quoted)
	require.NoError(t, err)
	for _, c := range []struct{ name, text, encoding, separator string }{
		{"semicolons", quoted, "utf-8", "semicolon"},
		{"byte-order mark", "\ufeff" + quoted, "utf-8", "semicolon"},
		{"windows", cp1252, "windows-1252", "semicolon"},
		{"bare inch sign and commas", "No,Name,Ht\n07,\"Sörli, Åke\",6'2\"\n7A,Quill,188 cm", "utf-8", "comma"},
		{"tabs", "No\tName\tHt\n07\tSörli, Åke\t6'2\"\n7A\tQuill\t188 cm\n", "utf-8", "tab"},
	} {
		got, err := table.Read(strings.NewReader(c.text))
		require.NoError(t, err, c.name)
		assert.Equal(t, c.encoding, got.Encoding, c.name)
		assert.Equal(t, c.separator, got.Separator, c.name)
		assert.Equal(t, []string{"No", "Name", "Ht"}, got.Headers, c.name)
		require.Len(t, got.Rows, 2, c.name)
		for i, r := range got.Rows {
			assert.Equal(t, want[i], r.Fields, c.name)
		}
	}
	got, err := table.Read(strings.NewReader(quoted))
	require.NoError(t, err)
	assert.Equal(t, 5, got.Rows[1].Line, "lines are counted as in the file")
}

func TestReadTableRefuses(t *testing.T) {
	for name, text := range map[string]string{
		"empty":         " \n ",
		"workbook":      "PK\x03\x04rest",
		"binary":        "a,b\x00c",
		"open quote":    "a,b\n\"1,2\n3,4\n5,6\n7,8\n9,9\n",
		"too many cols": strings.Repeat("a,", 200),
		"too large":     strings.Repeat("a", table.MaxBytes+1),
	} {
		_, err := table.Read(strings.NewReader(text))
		e, ok := invalid.As(err)
		require.True(t, ok, "%s: %v", name, err)
		assert.Equal(t, "file", e.Field, name)
	}
}

func TestRoundTrip(t *testing.T) {
	field := rapid.StringMatching(`[A-Za-zåö0-9'", ;.-]{0,12}`)
	rapid.Check(t, func(t *rapid.T) {
		var rows [][]string
		for range rapid.IntRange(0, 8).Draw(t, "rows") {
			rows = append(rows, []string{"x" + field.Draw(t, "a"), field.Draw(t, "b"), field.Draw(t, "c")})
		}
		var b bytes.Buffer
		w := csv.NewWriter(&b)
		w.Comma = rapid.SampledFrom([]rune{',', ';', '\t'}).Draw(t, "separator")
		require.NoError(t, w.WriteAll(append([][]string{{"one", "two", "three"}}, rows...)))
		got, err := table.Read(&b)
		require.NoError(t, err)
		require.Len(t, got.Rows, len(rows))
		for i, r := range got.Rows {
			for j := range r.Fields {
				require.Equal(t, strings.TrimSpace(rows[i][j]), r.Fields[j])
			}
		}
	})
}

func FuzzReadTable(f *testing.F) {
	f.Add([]byte("No;Name\n1;\"a\"\n"))
	f.Add([]byte("\xff\xfea\x00"))
	f.Fuzz(func(t *testing.T, data []byte) {
		table, err := table.Read(bytes.NewReader(data))
		if err == nil && table.Headers == nil {
			t.Fatal("a table without a header")
		}
	})
}

// TestWhatIsWrittenReadsBack: as delimited text and as a workbook, with the numbers that
// coaches write with a nought in front.
func TestWhatIsWrittenReadsBack(t *testing.T) {
	rows := [][]any{{"No", "Name", "Weight"}, {"07", "Sörli, Åke", 251}, {"7A", `Q "Q" Quill`, 188.5}}
	for name, write := range map[string]func([][]any) ([]byte, error){
		"csv":  table.CSV,
		"xlsx": func(rows [][]any) ([]byte, error) { return table.XLSX("Roster", rows) },
	} {
		content, err := write(rows)
		require.NoError(t, err, name)
		got, err := table.Read(bytes.NewReader(content))
		require.NoError(t, err, name)
		assert.Equal(t, []string{"No", "Name", "Weight"}, got.Headers, name)
		require.Len(t, got.Rows, 2, name)
		assert.Equal(t, []string{"07", "Sörli, Åke", "251"}, got.Rows[0].Fields, name)
		assert.Equal(t, []string{"7A", `Q "Q" Quill`, "188.5"}, got.Rows[1].Fields, name)
	}
}

// TestAFormulaIsAText: a name that a spreadsheet would run is quoted in delimited text, and
// written as text into a workbook.
func TestAFormulaIsAText(t *testing.T) {
	for _, text := range []string{"=HYPERLINK(1)", "+1", "-1", "@SUM(1)", "\tx"} {
		content, err := table.CSV([][]any{{"a"}, {text}})
		require.NoError(t, err)
		assert.Contains(t, string(content), "'"+text)
	}
	content, err := table.CSV([][]any{{"a", "b"}, {"", -4}})
	require.NoError(t, err)
	assert.Contains(t, string(content), ",-4\r\n", "a number is a number")
	content, err = table.XLSX("Roster", [][]any{{"a"}, {"=1+1"}})
	require.NoError(t, err)
	got, err := table.Read(bytes.NewReader(content))
	require.NoError(t, err)
	assert.Equal(t, "=1+1", got.Rows[0].Fields[0])
	_, err = table.XLSX(strings.Repeat("long", 20), nil)
	assert.Error(t, err, "a sheet's name has a bound")
}
