package certificate

import (
	"fmt"
	"net"
	"net/netip"
	"os"
	"regexp"
	"slices"
	"strings"
)

var hostForm = regexp.MustCompile(`^[a-z0-9]([a-z0-9-]*[a-z0-9])?(\.[a-z0-9]([a-z0-9-]*[a-z0-9])?)*$`)

// ReadNames reads the names that a studio is to be reached by, with commas between them.
func ReadNames(text string) (hosts []string, err error) {
	for name := range strings.SplitSeq(text, ",") {
		name = strings.ToLower(strings.TrimSpace(name))
		if name == "" {
			continue
		}
		if _, err := netip.ParseAddr(name); err == nil || len(name) > 190 || !hostForm.MatchString(name) {
			return nil, fmt.Errorf("%q is not the name of a machine, such as studio.home", name)
		}
		hosts = append(hosts, name)
	}
	return hosts, nil
}

// OfMachine are the given names, those that the machine has by itself, and the
// addresses by which it is reached when it listens on one: that one, or all it has.
func OfMachine(given []string, listens netip.Addr) (n Names, err error) {
	n.Hosts = append(n.Hosts, given...)
	if own, err := os.Hostname(); err == nil {
		if own = strings.ToLower(own); hostForm.MatchString(own) {
			n.Hosts = append(n.Hosts, own)
			if !strings.Contains(own, ".") {
				n.Hosts = append(n.Hosts, own+".local")
			}
		}
	}
	slices.Sort(n.Hosts)
	n.Hosts = slices.Compact(n.Hosts)
	if !listens.IsUnspecified() {
		n.Addresses = []netip.Addr{listens}
		return n, nil
	}
	interfaces, err := net.InterfaceAddrs()
	if err != nil {
		return n, fmt.Errorf("looking for this machine's addresses: %w", err)
	}
	for _, i := range interfaces {
		prefix, err := netip.ParsePrefix(i.String())
		if err != nil {
			continue
		}
		// A link-local address of the newer kind cannot be written into a browser's address line.
		if a := prefix.Addr().Unmap(); !a.IsLoopback() && !(a.Is6() && a.IsLinkLocalUnicast()) {
			n.Addresses = append(n.Addresses, a)
		}
	}
	slices.SortFunc(n.Addresses, netip.Addr.Compare)
	return n, nil
}
