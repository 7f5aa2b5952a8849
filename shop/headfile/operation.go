package headfile

import (
	"strconv"

	"yatai/shop"
	"yatai/store"
)

// Operation finds an operation of the file by its number on the route.
func (f *File) Operation(seq int) (store.Operation, error) {
	for _, o := range f.Operations {
		if o.Seq == seq {
			return o, nil
		}
	}
	return store.Operation{}, shop.ErrNotFound
}

// OperationKey is the field an operation's mistakes belong to.
func OperationKey(seq int) string { return "op/" + strconv.Itoa(seq) }
