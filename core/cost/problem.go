package cost

// Formats of the question and of the answer.
const (
	ProblemFormat = "tidykiln/cost-problem@1"
	AnswerFormat  = "tidykiln/cost@1"
)

// Problem asks for the cost of GoodPieces good pieces made in one batch.
type Problem struct {
	Format     string `json:"format"`
	Currency   string `json:"currency,omitempty"`
	GoodPieces int    `json:"goodPieces"`
	// LabourPerHour and OverheadPerHour are money per hands-on hour.
	LabourPerHour   Money      `json:"labourPerHour"`
	OverheadPerHour Money      `json:"overheadPerHour"`
	Materials       []Material `json:"materials"`
	Stages          []Stage    `json:"stages"`
	Selling         *Selling   `json:"selling,omitempty"`
}

// Material is something bought, with the purchases its unit cost is averaged over.
type Material struct {
	ID        string     `json:"id"`
	Unit      string     `json:"unit,omitempty"`
	Purchases []Purchase `json:"purchases"`
}

// Purchase is a quantity of a material in its own unit, what it cost, and the
// shipping and duty paid on top.
type Purchase struct {
	Quantity Quantity `json:"quantity"`
	Price    Money    `json:"price"`
	Extra    Money    `json:"extra"`
}

// Stage is one step of the work. Yield is the share of pieces that survive it,
// over 0 and at most 1; nil means 1. Minutes are hands-on.
type Stage struct {
	ID              string    `json:"id"`
	Yield           *Quantity `json:"yield,omitempty"`
	SetupMinutes    Quantity  `json:"setupMinutes"`
	MinutesPerPiece Quantity  `json:"minutesPerPiece"`
	PerPiece        []Use     `json:"perPiece,omitempty"`
	PerBatch        []Use     `json:"perBatch,omitempty"`
	Outside         *Outside  `json:"outside,omitempty"`
}

// Use is a quantity of a material, in the material's unit.
type Use struct {
	Material string   `json:"material"`
	Quantity Quantity `json:"quantity"`
}

// Outside is work bought in, such as a copy shop's sheets.
type Outside struct {
	PerPiece Money `json:"perPiece"`
	PerBatch Money `json:"perBatch"`
}

// Selling holds what is taken off a sale. Percentages are of the price.
type Selling struct {
	FeePercent    Quantity `json:"feePercent"`
	FeeFixed      Money    `json:"feeFixed"`
	MarginPercent Quantity `json:"marginPercent"`
}

// Answer is what a good piece costs and earns.
type Answer struct {
	Format     string         `json:"format"`
	Started    []StartedStage `json:"started"`
	PerPiece   PerPiece       `json:"perPiece"`
	SpoilShare string         `json:"spoilShare"`
	BatchTotal string         `json:"batchTotal"`
	// Price is nil when the problem says nothing of selling.
	Price *string `json:"price,omitempty"`
	// EarnedPerHour is nil without a price, or when no hands-on time is spent.
	EarnedPerHour *string `json:"earnedPerHour,omitempty"`
}

// StartedStage is the expected number of pieces started at a stage.
type StartedStage struct {
	Stage  string   `json:"stage"`
	Pieces Quantity `json:"pieces"`
}

// PerPiece is the cost of one good piece by kind, with four decimals.
type PerPiece struct {
	Materials string `json:"materials"`
	Labour    string `json:"labour"`
	Overhead  string `json:"overhead"`
	Outside   string `json:"outside"`
	Total     string `json:"total"`
}
