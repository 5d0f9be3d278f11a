/** Day or night: chosen by hand, else by the system. */

export type Theme = "day" | "night" | "system";
const KEY = "ulsek.theme";
const dark = () => window.matchMedia("(prefers-color-scheme: dark)");

export function chosenTheme(): Theme {
  const kept = localStorage.getItem(KEY);
  return kept === "day" || kept === "night" ? kept : "system";
}

function apply() {
  const theme = chosenTheme();
  document.documentElement.dataset.theme = theme === "system" ? (dark().matches ? "night" : "day") : theme;
}

export function chooseTheme(theme: Theme) {
  if (theme === "system") localStorage.removeItem(KEY);
  else localStorage.setItem(KEY, theme);
  apply();
}

export function startTheme() {
  apply();
  dark().addEventListener("change", apply);
}
