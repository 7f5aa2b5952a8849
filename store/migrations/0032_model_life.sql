-- The heads of a model that were closed last.
CREATE INDEX heads_of_model ON heads (model_id, closed_at);
