import { zodResolver } from "@hookform/resolvers/zod";
import { createContext, useContext, useEffect, useState, type ComponentProps, type ReactNode } from "react";
import {
  FormProvider,
  useForm,
  type DefaultValues,
  type FieldValues,
  type Resolver,
  type UseFormReturn,
} from "react-hook-form";
import { Draft } from "./Draft";
import type { HalfTyped } from "@/sync/drafts";
import { Wrong } from "../Field";
import { fitting, loadCheck, shapeOf, type Body, type FormName, type Shape } from "./shape";

/** What the server does not take of it, and at which field. */
export interface Refused {
  message: string;
  field?: string;
}

interface Bound {
  shape: Shape;
  refused?: Refused;
}

const BoundContext = createContext<Bound | undefined>(undefined);

/** The shape of the form around it, and what was refused. */
export function useBound(): Bound {
  const bound = useContext(BoundContext);
  if (!bound) throw new Error("a field of the contract stands outside of a form");
  return bound;
}

/**
 * Checks what is typed by what the contract says of it. The check comes when a form is opened; where it cannot
 * come, because the line is down, the server looks at what is sent as it always does.
 */
const resolverOf =
  <V extends FieldValues>(shape: Shape): Resolver<V> =>
  async (values, context, options) => {
    const check = await loadCheck();
    if (!check) return { values, errors: {} };
    const schema = check.checkOf(shape);
    const resolve = zodResolver(schema as never, { error: (issue) => check.say(shape, issue) });
    return resolve(values as never, context, options as never) as never;
  };

export interface Filled<N extends FormName> {
  name: N;
  form: UseFormReturn<Body<N> & FieldValues>;
}

/** A form that fills in what an operation of the contract takes. What is typed is kept as a draft. */
export function useFormOf<N extends FormName>(
  name: N,
  start: DefaultValues<Body<N>>,
  draft?: HalfTyped<Body<N>>,
): Filled<N> {
  const [resolver] = useState(() => resolverOf<Body<N> & FieldValues>(shapeOf(name)));
  const form = useForm<Body<N> & FieldValues>({
    resolver,
    defaultValues: start as DefaultValues<Body<N> & FieldValues>,
  });
  useEffect(() => void loadCheck(), []);
  const keep = draft?.keep;
  useEffect(() => {
    if (!keep) return;
    // What is typed, not what is put there: a form that is cleared keeps nothing.
    return form.subscribe({
      formState: { values: true },
      callback: ({ values, type }) => {
        if (type === "change") keep(structuredClone(values));
      },
    });
  }, [form, keep]);
  return { name, form };
}

interface Props<N extends FormName> extends Omit<ComponentProps<"form">, "onSubmit" | "name"> {
  of: Filled<N>;
  draft?: HalfTyped<Body<N>>;
  refused?: Refused;
  /** Saves it; while it does the form is being submitted. */
  onSave: (body: Body<N>) => unknown;
  children: ReactNode;
}

/** The form around its fields: what was left half typed is offered, what is wrong is said and has the keyboard. */
export function Form<N extends FormName>({ of, draft, refused, onSave, children, ...rest }: Props<N>) {
  const { form } = of;
  const shape = shapeOf(of.name);
  return (
    <BoundContext value={{ shape, refused }}>
      <FormProvider {...form}>
        <form
          {...rest}
          noValidate
          onSubmit={(e) => void form.handleSubmit((body) => onSave(body as Body<N>))(e)}
        >
          {children}
          {draft && (
            <Draft
              draft={draft}
              onTake={(kept) => {
                const body = fitting(shape, kept);
                form.reset({ ...form.getValues(), ...body } as never, { keepDefaultValues: true });
                draft.keep(kept);
              }}
            />
          )}
          {refused && !(refused.field && shape.properties?.[refused.field]) && (
            <Wrong>{refused.message}</Wrong>
          )}
        </form>
      </FormProvider>
    </BoundContext>
  );
}
