-- For how long heads stood in a day's plan because a machine, or hands for some work, were busy: minutes by name, in JSON.
ALTER TABLE plan_days ADD COLUMN short TEXT NOT NULL DEFAULT '{}';
