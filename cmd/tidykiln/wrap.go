package main

import (
	"fmt"
	"os"

	"tidykiln/core/wrap"
)

// wrapped reads a wall from flags and prints its flat template; with --svg it is
// drawn into a file too, before anything is printed.
func wrapped(args []string) error {
	wall, file, err := wallOf(args)
	if err != nil {
		return badInput{err}
	}
	template, err := wrap.Compute(wall)
	if err == nil && file != "" {
		var drawn string
		if drawn, err = wrap.SVG(wall); err == nil {
			err = os.WriteFile(file, []byte(drawn), 0o644)
		}
	}
	return printed(template, err)
}

func wallOf(args []string) (wall wrap.Wall, file string, err error) {
	flags := newNumbers("wrap")
	var top, bottom, height, seam *float64
	flags.decimal("top", &top)
	flags.decimal("bottom", &bottom)
	flags.decimal("height", &height)
	flags.decimal("seam", &seam)
	flags.StringVar(&file, "svg", "", "")
	if err := flags.read(args, "--top, --bottom and --height in mm, and --seam and --svg if wanted"); err != nil {
		return wall, file, err
	}
	for _, m := range []struct {
		name  string
		given *float64
		into  *float64
	}{{"top", top, &wall.Top}, {"bottom", bottom, &wall.Bottom}, {"height", height, &wall.Height}} {
		if m.given == nil {
			return wall, file, fmt.Errorf("%s: give it in mm", m.name)
		}
		*m.into = *m.given
	}
	if seam != nil {
		wall.Seam = *seam
	}
	return wall, file, nil
}
