package access

import (
	"os"
	"testing"
)

// Secrets are what an answer leaves with a browser.
func (in Arrived) Secrets() (token, known string) { return in.token, in.known }

// RealEffort is what a try costs outside of these tests.
var RealEffort = *effort

// TestMain tries with little effort: these tests guess much, and how hard it is is a test of its own.
func TestMain(m *testing.M) {
	effort.Memory, effort.Iterations = 64, 1
	os.Exit(m.Run())
}
