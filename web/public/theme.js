// before anything is painted: at dusk a pale page, however short, blinds
try {
  if (localStorage.getItem("theme") === "dusk") document.documentElement.dataset.theme = "dusk";
} catch {
  // nothing is kept here: day it is
}
