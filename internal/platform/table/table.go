// Package table reads and writes the open formats in which a staff keeps its
// lists. It knows encodings, separators and quotes, and nothing of players.
package table

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"strings"
	"unicode/utf8"

	"github.com/xuri/excelize/v2"
	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"

	"nineyard/core/invalid"
	"nineyard/core/legible"
)

// Limits of a table.
const (
	MaxBytes   = 10 << 20 // of a workbook
	maxText    = 4 << 20  // of delimited text
	MaxRows    = 5000
	MaxColumns = 100
	maxHeader  = 200  // bytes of the name of a column
	maxCell    = 4000 // bytes of a field
)

// Row is one line of a table with its number in the file.
type Row struct {
	Line   int
	Fields []string
}

// Table is a list as it stands in a file.
type Table struct {
	Headers   []string
	Rows      []Row
	Encoding  string // utf-8, utf-16, windows-1252 or xlsx
	Separator string // comma, semicolon, tab, or the cells of a workbook
}

// Read reads a list: delimited text, or the first sheet of a workbook (XLSX). Text is UTF-8
// with or without a byte-order mark, UTF-16 with one, or Windows-1252; separated by comma,
// semicolon or tab, whichever splits the first lines most evenly; fields quoted or not.
// Blank lines are passed over.
//
// It returns an invalid.Error on "file" when there is no header, when the file holds
// something else, or when a quote is never closed, naming the line.
func Read(r io.Reader) (Table, error) {
	data, err := io.ReadAll(io.LimitReader(r, MaxBytes+1))
	if err != nil {
		return Table{}, err
	}
	if len(data) > MaxBytes {
		return Table{}, invalid.Field("file", "the file is larger than %d MiB", MaxBytes>>20)
	}
	if bytes.HasPrefix(data, []byte("PK\x03\x04")) {
		return workbook(data)
	}
	if len(data) > maxText {
		return Table{}, invalid.Field("file", "the file is larger than %d MiB, which no list is", maxText>>20)
	}
	if n := bytes.Count(data, []byte("\n")) + bytes.Count(data, []byte("\r")); n > 8*MaxRows {
		return Table{}, invalid.Field("file", "the file has more than %d lines", MaxRows)
	}
	text, encoding, err := decode(data)
	if err != nil {
		return Table{}, err
	}
	if strings.TrimSpace(text) == "" {
		return Table{}, invalid.Field("file", "the file is empty")
	}
	sep := separator(text)
	t := Table{Encoding: encoding, Separator: map[rune]string{',': "comma", ';': "semicolon", '\t': "tab"}[sep]}
	if err := bounded(text, sep); err != nil {
		return Table{}, err
	}
	cr := csv.NewReader(strings.NewReader(text))
	cr.Comma = sep
	cr.FieldsPerRecord = -1
	cr.TrimLeadingSpace = sep != '\t'
	for {
		record, err := cr.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		var pe *csv.ParseError
		if errors.As(err, &pe) {
			if errors.Is(pe.Err, csv.ErrBareQuote) || errors.Is(pe.Err, csv.ErrQuote) {
				// 6'2" unquoted is common in heights; read the file again taking quotes as they come.
				if !cr.LazyQuotes {
					cr = csv.NewReader(strings.NewReader(text))
					cr.Comma, cr.FieldsPerRecord, cr.LazyQuotes, cr.TrimLeadingSpace = sep, -1, true, sep != '\t'
					t.Headers, t.Rows = nil, nil
					continue
				}
			}
			return Table{}, invalid.Caused("file", fmt.Sprintf("line %d cannot be read: its quotes do not fit", pe.Line), err)
		}
		if err != nil {
			return Table{}, err
		}
		line, _ := cr.FieldPos(0)
		if err := t.add(line, record); err != nil {
			return Table{}, err
		}
	}
	if t.Headers == nil {
		return Table{}, invalid.Field("file", "the file has no header line")
	}
	return t, nil
}

// bounded refuses lines with more separators than columns may be, before they are taken apart.
func bounded(text string, sep rune) error {
	line := 0
	for l := range strings.SplitSeq(text, "\n") {
		line++
		if strings.Count(l, string(sep)) > 2*MaxColumns && count(l, sep) > MaxColumns {
			return invalid.Field("file", "line %d has more than %d columns", line, MaxColumns)
		}
	}
	return nil
}

func (t *Table) add(line int, record []string) error {
	blank := true
	for i, f := range record {
		record[i] = strings.TrimSpace(legible.Strip(f))
		blank = blank && record[i] == ""
	}
	switch {
	case blank:
		return nil
	case len(record) > MaxColumns:
		return invalid.Field("file", "line %d has more than %d columns", line, MaxColumns)
	case t.Headers == nil:
		for i, h := range record {
			if len(h) > maxHeader {
				return invalid.Field("file", "line %d: the name of column %d is longer than %d characters", line, i+1, maxHeader)
			}
		}
		t.Headers = record
		return nil
	case len(t.Rows) == MaxRows:
		return invalid.Field("file", "the file has more than %d lines", MaxRows)
	}
	for i, f := range record {
		if len(f) > maxCell {
			return invalid.Field("file", "line %d: column %d is longer than %d characters", line, i+1, maxCell)
		}
		// A quote that is never closed swallows the lines after it.
		if strings.Count(f, "\n") > 3 {
			return invalid.Field("file", "a quote opened on line %d is not closed", line)
		}
	}
	t.Rows = append(t.Rows, Row{Line: line, Fields: record})
	return nil
}

// maxUnzipped bounds what a workbook may unfold to, in bytes.
const maxUnzipped = 24 << 20

// workbook reads the first sheet of a workbook.
func workbook(data []byte) (Table, error) {
	broken := invalid.Field("file", "this is no workbook that can be read; save the list as CSV or XLSX")
	f, err := excelize.OpenReader(bytes.NewReader(data), excelize.Options{UnzipSizeLimit: maxUnzipped, UnzipXMLSizeLimit: maxUnzipped / 2})
	if err != nil {
		return Table{}, broken
	}
	defer func() { _ = f.Close() }()
	sheets := f.GetSheetList()
	if len(sheets) == 0 {
		return Table{}, broken
	}
	rows, err := f.Rows(sheets[0])
	if err != nil {
		return Table{}, broken
	}
	defer func() { _ = rows.Close() }()
	t := Table{Encoding: "xlsx", Separator: "cells"}
	for line := 1; rows.Next(); line++ {
		record, err := rows.Columns()
		if err != nil {
			return Table{}, broken
		}
		if err := t.add(line, record); err != nil {
			return Table{}, err
		}
	}
	if t.Headers == nil {
		return Table{}, invalid.Field("file", "the file has no header line")
	}
	return t, nil
}

// decode turns the bytes into text and names the encoding they were in.
func decode(data []byte) (string, string, error) {
	switch {
	case bytes.HasPrefix(data, []byte("\xef\xbb\xbf")):
		data = data[3:]
	case bytes.HasPrefix(data, []byte("\xff\xfe\x00\x00")), bytes.HasPrefix(data, []byte("\x00\x00\xfe\xff")):
		return "", "", invalid.Field("file", "the file is UTF-32; save the list as UTF-8")
	case bytes.HasPrefix(data, []byte("\xff\xfe")), bytes.HasPrefix(data, []byte("\xfe\xff")):
		out, err := unicode.UTF16(unicode.LittleEndian, unicode.UseBOM).NewDecoder().Bytes(data)
		if err != nil {
			return "", "", invalid.Caused("file", "the file is not the UTF-16 it says it is", err)
		}
		return string(out), "utf-16", nil
	}
	if bytes.IndexByte(data, 0) >= 0 {
		return "", "", invalid.Field("file", "the file holds something else than text")
	}
	if utf8.Valid(data) {
		return string(data), "utf-8", nil
	}
	out, err := charmap.Windows1252.NewDecoder().Bytes(data)
	if err != nil {
		return "", "", invalid.Field("file", "the file holds something else than text")
	}
	return string(out), "windows-1252", nil
}

// separator chooses the one that occurs in the header most often, outside quotes; a
// tie goes to the one that occurs alike in the next line.
func separator(text string) rune {
	var lines []string
	for _, l := range strings.Split(text, "\n") {
		if strings.TrimSpace(l) != "" {
			lines = append(lines, l)
		}
		if len(lines) == 2 {
			break
		}
	}
	best, most := ',', 0
	for _, sep := range []rune{',', ';', '\t'} {
		n := 2 * count(lines[0], sep)
		if len(lines) > 1 && count(lines[1], sep) == count(lines[0], sep) {
			n++
		}
		if n > most && count(lines[0], sep) > 0 {
			best, most = sep, n
		}
	}
	return best
}

func count(line string, sep rune) int {
	n, quoted := 0, false
	for _, r := range line {
		switch {
		case r == '"':
			quoted = !quoted
		case r == sep && !quoted:
			n++
		}
	}
	return n
}
