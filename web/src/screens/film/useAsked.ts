import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { queries } from "@/api/queries";

const key = "nineyard.asked";

const last = () => {
  try {
    return localStorage.getItem(key) ?? undefined;
  } catch {
    return undefined;
  }
};

/** Who is asked about an open question: whoever was asked last on this device, at first the head coach. */
export function useAsked() {
  const me = useQuery(queries.session()).data?.user?.id;
  const all = useQuery(queries.coaches()).data;
  const [kept, setKept] = useState(last);
  const coaches = (all ?? []).filter((c) => c.id !== me);
  const usual = kept === "" ? undefined : (coaches.find((c) => c.id === kept) ?? coaches[0])?.id;
  return {
    coaches,
    usual,
    named: (id: string | undefined) => all?.find((c) => c.id === id)?.name ?? "",
    keep: (coach: string | undefined) => {
      setKept(coach ?? "");
      try {
        localStorage.setItem(key, coach ?? "");
      } catch {
        // Storage is closed; it holds for this screen.
      }
    },
  };
}
