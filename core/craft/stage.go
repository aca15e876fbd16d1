package craft

import "slices"

// Stage is a part of the work that people speak of as one: somebody leaves it
// to others, or likes to do it at certain times.
type Stage string

// The stages, in the order of the work. Spraying is one of its own: it cuts
// across the others.
const (
	Prepare   Stage = "prepare"
	Printing  Stage = "print"
	Laying    Stage = "lay"
	Removing  Stage = "remove"
	Sealing   Stage = "seal"
	Finishing Stage = "finish"
	Spraying  Stage = "spray"
)

// Stages lists them.
func Stages() []Stage {
	return []Stage{Prepare, Printing, Laying, Removing, Sealing, Finishing, Spraying}
}

var stageWords = map[Stage]string{
	Prepare: "preparing blanks", Printing: "printing and trimming", Laying: "laying and pressing", Removing: "clearing paper",
	Sealing: "sealing and staining", Finishing: "finishing and packing", Spraying: "spraying",
}

// Words names the stage as people say it.
func (s Stage) Words() string { return stageWords[s] }

// Stages are those that a step belongs to, by its kinds of work. What its owner
// named belongs to finishing.
func (s Step) Stages() (stages []Stage) {
	add := func(stage Stage) {
		if !slices.Contains(stages, stage) {
			stages = append(stages, stage)
		}
	}
	parts := s.Parts
	if len(parts) == 0 {
		parts = []Part{s.part()}
	}
	for _, p := range parts {
		if p.Do == Handwork {
			add(Finishing)
		} else {
			add(p.Do.facts().Stage)
		}
		if p.Do.Sprays(p.With) {
			add(Spraying)
		}
	}
	return stages
}
