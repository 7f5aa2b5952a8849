package trade

// TrayPart is a place on the tray at each valve: what lies there, and the kind of part that
// replaces it, nil for what is never bought by itself. Code is a key in files.
type TrayPart struct {
	Code string
	Kind *PartKind
}

// TrayParts lists what lies on the tray at each valve of heads with a drive, in their order.
func TrayParts(drive string) []TrayPart {
	out := []TrayPart{
		{"valve", ValvePart}, {"spring", SpringPart}, {"retainer", nil}, {"keepers", KeeperPart},
		{"seat", InsertPart},
	}
	if drive == Bucket {
		return append(out, TrayPart{"shim", LashShimPart}, TrayPart{"bucket", BucketPart})
	}
	return append(out, TrayPart{"rocker", RockerPart}, TrayPart{"pushrod", PushrodPart})
}
