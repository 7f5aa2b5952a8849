CREATE INDEX heads_returned ON heads (model_id, created_at) WHERE earlier <> '';
CREATE INDEX bill_lines_head ON bill_lines (head_id);
CREATE INDEX bill_lines_bill ON bill_lines (bill_id);
CREATE INDEX movements_head ON movements (head_id) WHERE kind = 'use';
