// Tidykiln plans, costs and tracks the work of a small studio that makes
// photo-transfer pieces in batches.
package main

import (
	"context"
	"errors"
	"fmt"
	"os"
	"os/signal"
	"strings"
	"syscall"

	"tidykiln/core/check"
	"tidykiln/core/cost"
	"tidykiln/core/plan"
	"tidykiln/core/sheet"
)

const usage = `tidykiln serve            run the studio against TIDYKILN_DSN, or a private database under var/
tidykiln demo [--reset]   run the demo studio; --reset tells its story afresh
tidykiln owner set NAME   make the first owner, or reset [NAME]: give one another password (--demo: of the demo studio)
tidykiln backup FILE      write everything into one file, while the server runs (--demo, --passphrase-file FILE)
tidykiln restore FILE     put a backup into an empty studio (--demo, --passphrase-file FILE)
tidykiln plan FILE        place the steps of a plan problem (JSON; - reads standard input)
tidykiln sheets FILE      lay prints out on sheets (JSON; - reads standard input)
tidykiln cost FILE        work out a cost problem (JSON; - reads standard input)
tidykiln check FILE       find what is about to go wrong with a product (JSON; - reads standard input)
tidykiln overage FLAGS    say how many pieces to start: --good N --confidence C, --yield Y or --made N --spoiled N, --distinct
tidykiln wrap FLAGS       lay a round wall flat: --top MM --bottom MM (diameters) --height MM, --seam MM, --svg FILE
tidykiln openapi          print the OpenAPI document of the server
`

// badInput is an error in what was asked, answered with exit code 2.
type badInput struct{ error }

func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	err := run(ctx, os.Args[1:])
	var bad badInput
	switch {
	case errors.As(err, &bad):
		fmt.Fprintln(os.Stderr, bad)
		os.Exit(2)
	case err != nil:
		fmt.Fprintln(os.Stderr, "tidykiln:", err)
		os.Exit(1)
	}
}

func run(ctx context.Context, args []string) error {
	if len(args) == 0 {
		return badInput{errors.New(strings.TrimSpace(usage))}
	}
	switch command, rest := args[0], args[1:]; command {
	case "serve":
		return serve(ctx, rest)
	case "demo":
		return serveDemo(ctx, rest)
	case "owner":
		return owner(ctx, rest)
	case "backup":
		return makeBackup(ctx, rest)
	case "restore":
		return restore(ctx, rest)
	case "plan":
		return answer(rest, func(p plan.Problem) (plan.Answer, error) { return plan.Solve(ctx, p, nil) })
	case "sheets":
		return answer(rest, func(p sheet.Problem) (sheet.Answer, error) { return sheet.Solve(ctx, p) })
	case "cost":
		return answer(rest, cost.Compute)
	case "check":
		return answer(rest, check.Compute)
	case "overage":
		return overage(rest)
	case "wrap":
		return wrapped(rest)
	case "openapi":
		return printOpenAPI(rest)
	}
	return badInput{errors.New(strings.TrimSpace(usage))}
}
