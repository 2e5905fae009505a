import { useState } from "react";
import { Field } from "./Field";
import { numberOf } from "./form/fields";

interface Props {
  label: string;
  unit?: string;
  value: string;
  max: number;
  /** The label is only heard. */
  quiet?: boolean;
  inline?: boolean;
  off?: boolean;
  placeholder?: string;
  inputMode?: "numeric";
  /** The id of a datalist to choose from. */
  list?: string;
  className?: string;
  onSay: (said: string) => void;
}

/** A line of text that is said as a whole: when it is left, or Enter is pressed. */
export function Typed({ label, unit, value, max, quiet, inline, off, className, onSay, ...rest }: Props) {
  const [typed, setTyped] = useState<string>();
  const say = () => {
    if (typed !== undefined && typed.trim() !== value) onSay(typed.trim());
    setTyped(undefined);
  };
  return (
    <Field label={label} unit={unit} quiet={quiet} inline={inline} className={quiet ? className : undefined}>
      {(control) => (
        <input
          {...control}
          {...rest}
          className={`field min-w-0 ${quiet ? "w-full" : (className ?? "w-full")} ${rest.inputMode ? "text-right" : ""}`}
          maxLength={max}
          readOnly={off}
          value={typed ?? value}
          onChange={(e) => setTyped(e.target.value)}
          onBlur={say}
          onKeyDown={(e) => e.key === "Enter" && say()}
        />
      )}
    </Field>
  );
}

interface NumberProps extends Omit<Props, "value" | "max" | "onSay" | "inputMode"> {
  value: number | undefined;
  least: number;
  most?: number;
  /** Whole numbers alone, unless parts of one may be said. */
  parts?: boolean;
  onSay: (n: number) => void;
  /** It was emptied; absent where that means nothing. */
  onNone?: () => void;
}

/** A number that is said as a whole; what is none, or out of its range, is not taken. */
export function TypedNumber({ value, least, most = Infinity, parts, onSay, onNone, ...rest }: NumberProps) {
  return (
    <Typed
      {...rest}
      inputMode="numeric"
      max={6}
      value={value === undefined ? "" : String(value)}
      onSay={(said) => {
        const n = numberOf(said);
        if (n === null) onNone?.();
        else if (n >= least && n <= most) onSay(parts ? n : Math.round(n));
      }}
    />
  );
}

/** A time of day as minutes after midnight. */
export function TypedClock({
  value,
  onSay,
  ...rest
}: Omit<Props, "max" | "onSay"> & { onSay: (minute: number) => void }) {
  return (
    <Typed
      {...rest}
      value={value}
      max={5}
      onSay={(said) => {
        const m = /^(\d{1,2}):(\d{2})$/.exec(said);
        if (m && Number(m[1]) < 24 && Number(m[2]) < 60) onSay(Number(m[1]) * 60 + Number(m[2]));
      }}
    />
  );
}
