const days = new Intl.DateTimeFormat("en-GB", {
  day: "numeric",
  month: "short",
  hour: "2-digit",
  minute: "2-digit",
});

/** "27 Nov, 21:05", by the clock of the device. */
export const moment = (iso: string) => days.format(new Date(iso));
