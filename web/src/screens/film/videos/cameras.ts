export const cameras = [
  { value: "wide", name: "Wide, from the side" },
  { value: "end", name: "End zone" },
  { value: "side", name: "Close, from the side" },
];
export const cameraOf = (view: string) => cameras.find((c) => c.value === view)?.name ?? view;

/** What may be chosen. */
export const accept = "video/webm,video/mp4,.webm,.mp4";
/** How large a file is: 1.4 GB. */
export const gigabytes = (n: number) =>
  n >= 1e9
    ? `${(n / 1e9).toFixed(1)} GB`
    : n >= 1e6
      ? `${Math.round(n / 1e6)} MB`
      : `${Math.ceil(n / 1e3)} kB`;
