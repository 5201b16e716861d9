// Before anything is painted: a night crew's eyes must not meet a bright page while the application loads.
try {
  document.documentElement.dataset.theme = localStorage.getItem("theme") || "day";
} catch {
  document.documentElement.dataset.theme = "day";
}
