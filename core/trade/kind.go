package trade

import "yatai/core/field"

// Kind is what sort of head it is. It decides what exists on it at all: a bucket head has no
// rockers, an air-cooled one has no water jacket to test.
type Kind struct {
	Drive    string // one of Drives
	Lifter   string // one of Lifters
	Cooling  string // one of Coolings
	Material string // one of Materials
	Ignition string // one of Ignitions
}

// What drives the valves.
const (
	Bucket         = "bucket"          // a cam in the head on buckets with shims
	Rocker         = "rocker"          // rockers moved by pushrods, the cam in the block
	OverheadRocker = "overhead rocker" // rockers on a cam in the head
	Finger         = "finger"          // finger followers under a cam in the head
)

// The choices a head's kind is made of.
var (
	Drives    = []string{Bucket, Rocker, OverheadRocker, Finger}
	Lifters   = []string{"solid", "hydraulic"}
	Coolings  = []string{"water", "air"}
	Materials = []string{"iron", "aluminium"}
	Ignitions = []string{"plug", "injector"}
)

// Pushrods tells whether the cam is in the block: then facing and the gasket move the lash.
func (k Kind) Pushrods() bool { return k.Drive == Rocker }

// Rockers tells whether there is rocker gear.
func (k Kind) Rockers() bool { return k.Drive == Rocker || k.Drive == OverheadRocker }

// Adjusters tells whether the lash is set by a screw: on rockers and finger followers without
// hydraulic lifters.
func (k Kind) Adjusters() bool { return k.Solid() && k.Drive != Bucket }

// Buckets tells whether buckets with lash shims drive the valves.
func (k Kind) Buckets() bool { return k.Drive == Bucket }

// shimmed tells whether lash shims sit on buckets.
func shimmed(k Kind) bool { return k.Buckets() && k.Solid() }

// CamInHead tells whether the head carries a cam.
func (k Kind) CamInHead() bool { return k.Drive != Rocker }

// CheckCamshafts refuses two camshafts where the cam is in the block.
func (k Kind) CheckCamshafts(n int) error {
	if n == 2 && !k.CamInHead() {
		return field.Errorf("", "the cam of a head with pushrods is in the block")
	}
	return nil
}

// Hydraulic tells whether lifters take the lash up by themselves.
func (k Kind) Hydraulic() bool { return k.Lifter == "hydraulic" }

// Solid tells whether lash is set.
func (k Kind) Solid() bool { return !k.Hydraulic() }

// WaterCooled tells whether there is a water jacket.
func (k Kind) WaterCooled() bool { return k.Cooling != "air" }

// AirCooled tells whether barrels sit in registers of the head.
func (k Kind) AirCooled() bool { return k.Cooling == "air" }

// Injectors tells whether injectors stand in the chambers.
func (k Kind) Injectors() bool { return k.Ignition == "injector" }

// Plugs tells whether spark plugs do.
func (k Kind) Plugs() bool { return k.Ignition != "injector" }

// Valve is what a valve is made of: of a role on the model, or of the very part in a place.
type Valve struct {
	Material string // one of ValveMaterials
	Coated   bool   // a hard or a heat-holding coat on face or stem
	Hollow   bool   // the stem may hold sodium
	Plain    bool   // it sits without a rotator
}

// ValveMaterials are what valves are made of.
var ValveMaterials = []string{"steel", "austenitic", "titanium"}

// Titanium tells whether the valve is of titanium.
func (v Valve) Titanium() bool { return v.Material == "titanium" }
