// Package loopback finds free ports on loopback for servers that cannot choose one themselves:
//
//	address := fmt.Sprintf("127.0.0.1:%d", loopback.FreePort())
package loopback

import "net"

// FreePort is a port that nobody listens on now; 0 where none can be had, which whoever listens on it will say.
func FreePort() int {
	l, err := net.Listen("tcp", "127.0.0.1:0") //nolint:noctx // closed at once
	if err != nil {
		return 0
	}
	defer func() { _ = l.Close() }()
	at, _ := l.Addr().(*net.TCPAddr)
	return at.Port
}
