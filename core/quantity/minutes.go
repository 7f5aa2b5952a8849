package quantity

import "time"

// Minutes are how long work takes, whole ones.
type Minutes int

// Duration returns the minutes as the clock counts them.
func (m Minutes) Duration() time.Duration { return time.Duration(m) * time.Minute }

// Passes are how often a valve was turned to and fro with paste.
type Passes int
