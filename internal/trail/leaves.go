package trail

import (
	"fmt"
	"maps"
	"slices"
)

// leaves visits every place of two documents at which one of them has a value that is
// no object and no list. Entries of lists that have ids are matched by those.
func leaves(at string, was, became any, visit func(at string, was, became any)) {
	a, b := branches(was), branches(became)
	if a == nil && b == nil {
		visit(at, was, became)
		return
	}
	for _, name := range slices.Sorted(maps.Keys(union(a, b))) {
		leaves(at+", "+name, a[name], b[name], visit)
	}
}

// branches are what an object or a list holds, by name, id or place; nil for a leaf.
func branches(v any) map[string]any {
	switch v := v.(type) {
	case map[string]any:
		return v
	case []any:
		all := map[string]any{}
		for i, one := range v {
			name := fmt.Sprint(i + 1)
			if object, is := one.(map[string]any); is {
				if id, has := object["id"].(string); has && id != "" && all[id] == nil {
					name = id
				}
			}
			all[name] = one
		}
		return all
	}
	return nil
}
