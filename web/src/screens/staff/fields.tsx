import type { Schemas } from "@/api/client";
import { Field, FieldGroup } from "@/kit/Field";
import { roleNames, roleSays, worksInGroups } from "@/parts/roles";

export type Group = Pick<Schemas["Frame"]["groups"][number], "key" | "name">;
export type Role = Schemas["Role"];

interface Props {
  role: Role;
  groups: string[];
  all: Group[];
  /** What is wrong, by the field. */
  wrong: (field: string) => string | undefined;
  onRole: (role: Role) => void;
  onGroups: (groups: string[]) => void;
}

/** What somebody is on a staff: a role, and the groups that go with it. */
export function RoleFields({ role, groups, all, wrong, onRole, onGroups }: Props) {
  return (
    <>
      <FieldGroup label="Role" error={wrong("role")}>
        {(Object.keys(roleNames) as Role[]).map((r) => (
          <label key={r} className="flex min-h-7 items-center gap-1.5 pointer-coarse:min-h-11">
            <input type="radio" name="role" checked={role === r} onChange={() => onRole(r)} />
            <span>
              {roleNames[r]} <span className="say text-small text-soft">{roleSays[r]}</span>
            </span>
          </label>
        ))}
      </FieldGroup>
      {worksInGroups(role) && (
        <FieldGroup label="Groups" error={wrong("groups")}>
          <div className="grid grid-cols-2 gap-x-3">
            {all.map((g) => (
              <label
                key={g.key}
                className="flex min-h-7 items-center gap-1.5 text-small pointer-coarse:min-h-11"
              >
                <input
                  type="checkbox"
                  checked={groups.includes(g.key)}
                  onChange={(e) =>
                    onGroups(e.target.checked ? [...groups, g.key] : groups.filter((k) => k !== g.key))
                  }
                />
                {g.name}
              </label>
            ))}
          </div>
        </FieldGroup>
      )}
    </>
  );
}

interface LineProps {
  label: string;
  value: string;
  wrong?: string;
  hint?: string;
  type?: "email";
  max: number;
  onChange: (value: string) => void;
}

/** A line of text. */
export function Line({ label, value, wrong, hint, type, max, onChange }: LineProps) {
  return (
    <Field label={label} error={wrong} hint={hint}>
      {(control) => (
        <input
          {...control}
          className="field w-full"
          type={type ?? "text"}
          maxLength={max}
          value={value}
          onChange={(e) => onChange(e.target.value)}
        />
      )}
    </Field>
  );
}
