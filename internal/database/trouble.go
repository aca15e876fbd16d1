package database

import (
	"context"
	"database/sql/driver"
	"errors"
	"net"
	"regexp"

	drivermysql "github.com/go-sql-driver/mysql"
)

// Gone tells that err is the database not being reached.
func Gone(err error) bool {
	var unreached *net.OpError
	return errors.Is(err, driver.ErrBadConn) || errors.Is(err, drivermysql.ErrInvalidConn) || errors.As(err, &unreached) || code(err, stopping...)
}

// Slow tells that err is the database taking longer than it was given.
func Slow(err error) bool {
	return errors.Is(err, context.DeadlineExceeded) || code(err, lockWaitTimeout, statementTimeout)
}

// Full tells that err is the database's disk having no room left.
func Full(err error) bool {
	return code(err, diskFull, tableFull) || code(err, writingFailed, engineFailed) && noSpace.MatchString(err.Error())
}

// Numbers of MariaDB's errors.
const (
	lockWaitTimeout  = 1205
	deadlock         = 1213
	unknownDatabase  = 1049
	statementTimeout = 1969
	diskFull         = 1021
	tableFull        = 1114
	writingFailed    = 1026
	engineFailed     = 1030
)

// stopping: the server is shutting down, the connection was killed, too many connections.
var stopping = []uint16{1053, 1927, 1040}

// noSpace is how errors that have other causes too tell of this one.
var noSpace = regexp.MustCompile(`No space left|\b28\b`)

func code(err error, numbers ...uint16) bool {
	var e *drivermysql.MySQLError
	if !errors.As(err, &e) {
		return false
	}
	for _, n := range numbers {
		if e.Number == n {
			return true
		}
	}
	return false
}
