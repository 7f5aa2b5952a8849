package calc

// planExample is a small head: two valves, and a face that needs 0.05 mm at least.
const planExample = `{"grid":"0.01mm","face":{"cut_min":"0.05mm","cut_max":"0.15mm","thickness":"92.10mm","thickness_min":"92.01mm"},
"roles":{"intake":{"recession":{"low":"0.4mm","high":"0.9mm"},"stem_height":{"low":"45.5mm","high":"46.35mm"},
"spring_height":{"low":"37.3mm","high":"38.5mm"},"margin_min":"0.9mm","new_valve":{"margin":"1.6mm","length_change":"-0.2mm",
"groove_change":"-0.2mm"}},"exhaust":{"recession":{"low":"0.5mm","high":"0.8mm"},"stem_height":{"low":"45.5mm",
"high":"46.35mm"},"spring_height":{"low":"37.3mm","high":"38.5mm"},"margin_min":"1.2mm","new_valve":{"margin":"1.6mm",
"length_change":"-0.3mm","groove_change":"-0.2mm"}}},"tip_grind_max":"0.4mm","spring_shims":["0.3mm","0.5mm","0.8mm"],
"insert":{"up":"1.60mm","down":"0.30mm"},"costs":{"face":9000,"seat_cut":1200,"insert":6500,"valve_grind":900,
"new_valve":{"intake":2800,"exhaust":4100},"tip_grind":400,"spring_shim":250},"valves":[{"id":"1I1","role":"intake",
"recession":"0.87mm","stem_height":"46.2mm","spring_height":"38.31mm","margin":"1.28mm","seat":{"as_is":false,"insert":true,
"cut_min":"0.11mm","cut_max":"0.32mm"},"valve":{"as_is":false,"replace":true,"grind":"0.12mm"}},{"id":"1E1","role":"exhaust",
"recession":"1.35mm","stem_height":"46.55mm","spring_height":"38.56mm","margin":"0.88mm","seat":{"as_is":false,"insert":true,
"cut_min":"0.03mm","cut_max":"0.37mm"},"valve":{"as_is":false,"replace":true}}]}`
