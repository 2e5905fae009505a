-- +goose Up
-- Practices and weeks that a club keeps to lay them again: days with their scripts, drills left out.
CREATE TABLE plan_templates (
    club_id    uuid NOT NULL REFERENCES clubs (id) ON DELETE CASCADE,
    id         uuid PRIMARY KEY, -- made by the client
    name       text NOT NULL CONSTRAINT plan_templates_name CHECK (length(name) BETWEEN 1 AND 80),
    whole_week boolean NOT NULL,
    days       jsonb NOT NULL CONSTRAINT plan_templates_days CHECK (jsonb_typeof(days) = 'array'),
    version    int NOT NULL DEFAULT 1,
    updated_by uuid,
    updated_at timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX plan_templates_of ON plan_templates (club_id);
ALTER TABLE plan_templates ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_club ON plan_templates TO nineyard_app USING (club_id = (SELECT current_club())) WITH CHECK (club_id = (SELECT current_club()));

-- +goose Down
DROP TABLE plan_templates;
