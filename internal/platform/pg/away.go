package pg

import (
	"context"
	"database/sql"
	"database/sql/driver"
	"errors"
	"io"
	"net"
	"strings"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
)

// Away reports that an error says nothing of what was asked, only that the database could not be reached, broke off
// or did not answer in time. Asked again later, the same may well be done.
func Away(err error) bool {
	var connect *pgconn.ConnectError
	var network net.Error
	var said *pgconn.PgError
	switch {
	case err == nil:
		return false
	case errors.As(err, &said):
		// 08: the connection; 53: out of something; 57: an operator, a timeout, a start. 55P03 is a lock that was waited for
		// in vain, 40 a transaction that another one got in the way of.
		for _, class := range []string{"08", "53", "57", "40"} {
			if strings.HasPrefix(said.Code, class) {
				return true
			}
		}
		return said.Code == "55P03"
	case errors.As(err, &connect), errors.As(err, &network), pgconn.Timeout(err):
		return true
	}
	for _, e := range []error{driver.ErrBadConn, sql.ErrConnDone, sql.ErrTxDone, io.EOF, io.ErrUnexpectedEOF, net.ErrClosed, pgx.ErrTxClosed, context.DeadlineExceeded} {
		if errors.Is(err, e) {
			return true
		}
	}
	return pgconn.SafeToRetry(err)
}
