package plan

import "context"

// ByPlainRules are the plans that each plain rule comes to by itself.
func ByPlainRules(ctx context.Context, p Problem) (answers []Answer, err error) {
	shop := newShop(p, false)
	for _, rule := range shop.rules() {
		s := newSearch(ctx, shop, nil)
		b := newBoard(shop)
		if err := s.construct(b, rule); err != nil {
			return nil, err
		}
		failed, err := s.lastChance(b)
		if err != nil {
			return nil, err
		}
		answers = append(answers, b.answer(failed))
	}
	return answers, nil
}
