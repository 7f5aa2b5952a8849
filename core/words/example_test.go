package words_test

import (
	"fmt"

	"yatai/core/words"
)

func ExampleText_In() {
	said := words.Of("bore %s for a stem of %s", "8.02 mm", "7.98 mm")
	fmt.Println(said)
	fmt.Println(said.In(words.In("de")))
	// Output:
	// bore 8.02 mm for a stem of 7.98 mm
	// Bohrung 8.02 mm für einen Schaft von 7.98 mm
}
