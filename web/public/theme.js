// Sets the theme before the first paint, so that a dark room stays dark.
(function () {
  var kept = null;
  try {
    kept = localStorage.getItem("nineyard.theme");
  } catch {
    // Storage is closed; the system decides.
  }
  var dark = kept ? kept === "night" : matchMedia("(prefers-color-scheme: dark)").matches;
  document.documentElement.dataset.theme = dark ? "night" : "day";
})();
