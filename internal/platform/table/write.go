package table

import (
	"bytes"
	"encoding/csv"
	"fmt"
	"strings"
	"unicode/utf8"

	"github.com/xuri/excelize/v2"
)

// File writes rows as an XLSX workbook where the format says so, else as CSV, and names it.
func File(format, name, sheet string, rows [][]any) (string, []byte, error) {
	if format == "xlsx" {
		content, err := XLSX(sheet, rows)
		return name + ".xlsx", content, err
	}
	content, err := CSV(rows)
	return name + ".csv", content, err
}

// Texts is a row of texts.
func Texts[S ~string](list []S) []any {
	row := make([]any, len(list))
	for i, s := range list {
		row[i] = string(s)
	}
	return row
}

// CSV writes rows as delimited text with a byte-order mark, so that every spreadsheet reads
// the names right. A text that a spreadsheet would take for a formula is quoted: one that begins, but for space, with
// one of the signs that begin a formula (OWASP, CSV Injection), in its narrow or its wide form.
func CSV(rows [][]any) ([]byte, error) {
	var out bytes.Buffer
	out.WriteString("\ufeff")
	w := csv.NewWriter(&out)
	w.UseCRLF = true
	for _, row := range rows {
		record := make([]string, len(row))
		for i, v := range row {
			record[i] = fmt.Sprint(v)
			if s, ok := v.(string); ok && formula(s) {
				record[i] = "'" + s
			}
		}
		if err := w.Write(record); err != nil {
			return nil, err
		}
	}
	w.Flush()
	return out.Bytes(), w.Error()
}

func formula(s string) bool {
	if s == "" || strings.ContainsAny(s[:1], "\t\r\n") {
		return s != ""
	}
	r, _ := utf8.DecodeRuneInString(strings.TrimSpace(s))
	return strings.ContainsRune("=+-@＝＋－＠|%", r)
}

// XLSX writes rows as a workbook of one sheet; the first row stays in sight. Texts are
// written as texts, never as formulas.
func XLSX(sheet string, rows [][]any) ([]byte, error) {
	f := excelize.NewFile()
	defer func() { _ = f.Close() }()
	if err := f.SetSheetName("Sheet1", sheet); err != nil {
		return nil, err
	}
	for i, row := range rows {
		at, err := excelize.CoordinatesToCellName(1, i+1)
		if err != nil {
			return nil, err
		}
		if err := f.SetSheetRow(sheet, at, &row); err != nil {
			return nil, err
		}
	}
	if err := f.SetPanes(sheet, &excelize.Panes{Freeze: true, YSplit: 1, TopLeftCell: "A2", ActivePane: "bottomLeft"}); err != nil {
		return nil, err
	}
	out, err := f.WriteToBuffer()
	if err != nil {
		return nil, err
	}
	return out.Bytes(), nil
}
