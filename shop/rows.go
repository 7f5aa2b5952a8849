package shop

import "yatai/store"

// Rows of the shop's file that pages show as they are kept. A page takes them from the place that
// answers it, and knows nothing of the file.
type (
	Bill        = store.Bill
	Customer    = store.Customer
	Event       = store.Event
	Finding     = store.Finding
	Head        = store.Head
	HeadModel   = store.HeadModel
	Import      = store.Import
	Limit       = store.Limit
	Logo        = store.Logo
	Note        = store.Note
	OldJob      = store.OldJob
	Operation   = store.Operation
	Photo       = store.Photo
	QuoteLine   = store.QuoteLine
	Reading     = store.Reading
	Suspected   = store.Suspected
	Tool        = store.Tool
	User        = store.User
	WorkStation = store.WorkStation
	ZeroCheck   = store.ZeroCheck
)
