package httpd

import (
	"context"
	"fmt"
	"net/http"
	"net/netip"
	"net/url"
	"strings"

	"github.com/gin-gonic/gin"
)

// proxies are the addresses whose word on whence a request comes is taken.
type proxies []netip.Prefix

func newProxies(list []string) (proxies, error) {
	var out proxies
	for _, text := range list {
		if p, err := netip.ParsePrefix(text); err == nil {
			out = append(out, p.Masked())
			continue
		}
		a, err := netip.ParseAddr(text)
		if err != nil {
			return nil, fmt.Errorf("TRUSTED_PROXIES: %q is neither an address nor a range of addresses", text)
		}
		out = append(out, netip.PrefixFrom(a, a.BitLen()))
	}
	return out, nil
}

func (p proxies) trusted(a netip.Addr) bool {
	for _, known := range p {
		if known.Contains(a) {
			return true
		}
	}
	return false
}

// peer is the address at the other end of the line.
func peer(r *http.Request) netip.Addr {
	at, err := netip.ParseAddrPort(r.RemoteAddr)
	if err != nil {
		return netip.Addr{}
	}
	return at.Addr().Unmap()
}

// secure reports whether the browser speaks TLS: with us, or with a proxy that is trusted to say so.
func (p proxies) secure(r *http.Request) bool {
	if r.TLS != nil {
		return true
	}
	said := r.Header.Values("X-Forwarded-Proto")
	return len(said) == 1 && strings.EqualFold(strings.TrimSpace(said[0]), "https") && p.trusted(peer(r))
}

// client is the address a request comes from: the last one in X-Forwarded-For that is no trusted proxy, where
// the request comes from one. Of IPv6 it is the network, since whoever has one has all its addresses.
func (p proxies) client(r *http.Request) string {
	at := peer(r)
	hops := strings.Split(strings.Join(r.Header.Values("X-Forwarded-For"), ","), ",")
	for i := len(hops) - 1; i >= 0 && p.trusted(at); i-- {
		next, err := netip.ParseAddr(strings.TrimSpace(hops[i]))
		if err != nil {
			break
		}
		at = next.Unmap()
	}
	switch {
	case !at.IsValid():
		return ""
	case at.Is6():
		net, err := at.WithZone("").Prefix(64)
		if err == nil {
			return net.String()
		}
	}
	return at.String()
}

// Origin is the page's own origin, as the browser says it: a request of another site's page never comes so far. Empty for
// who is no browser.
func Origin(ctx context.Context) string {
	c, ok := ctx.(*gin.Context)
	if !ok {
		return ""
	}
	u, err := url.Parse(c.GetHeader("Origin"))
	if err != nil || u.Host == "" || u.Host != c.Request.Host {
		return ""
	}
	return u.Scheme + "://" + u.Host
}
