package main

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestKindOfALicence(t *testing.T) {
	for text, want := range map[string]string{
		"Apache License\n  Version 2.0, January 2004":                                             "Apache-2.0",
		"Permission is hereby granted, free\nof charge, to any person":                            "MIT",
		"Redistribution and use in source and binary forms ... may be used to endorse or promote": "BSD-3-Clause",
		"Redistribution and use in source and binary forms, with or without":                      "BSD-2-Clause",
		"Permission to use, copy, modify, and/or distribute this software for any":                "ISC",
		"All rights reserved": "",
	} {
		assert.Equal(t, want, Kind(text))
	}
}

// TestWhatHasNoLicenceDoesNotShip.
func TestWhatHasNoLicenceDoesNotShip(t *testing.T) {
	dir := t.TempDir()
	var l List
	assert.ErrorContains(t, l.add("part", "1", "", dir), "no licence")
	require.NoError(t, os.WriteFile(filepath.Join(dir, "LICENSE.md"), []byte("Permission is hereby granted, free of charge"), 0o600))
	require.NoError(t, l.add("part", "1", "", dir))
	require.NoError(t, l.add("another", "2", "", dir))
	assert.Equal(t, []Part{{"part", "1", "MIT", []int{0}}, {"another", "2", "MIT", []int{0}}}, l.Parts, "they share the text")
}
