package page

import (
	"fmt"

	"yatai/shop/week"
)

// ownMinutes is what the shop's minutes say of a planned time: "1.1 times".
func ownMinutes(m week.Learnt) string {
	if m.Planned == 0 {
		return ""
	}
	return fmt.Sprintf("%.2f", float64(m.Actual)/float64(m.Planned))
}
