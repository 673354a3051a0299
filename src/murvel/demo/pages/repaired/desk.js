// The desk as it should be: states are said, the focus is led, and what changes is told.
const at = (id) => document.getElementById(id);
const later = (what) => setTimeout(what, 300);

for (const id of ["fields", "south"]) {
  const button = at(id), menu = at(`${id}-menu`);
  const show = (isOpen) => { button.setAttribute("aria-expanded", isOpen); menu.hidden = !isOpen; };
  button.addEventListener("click", () => show(menu.hidden));
  button.parentElement.addEventListener("keydown", (event) => {
    if (event.key === "Escape" && !menu.hidden) { show(false); button.focus(); event.stopPropagation(); }
  });
}

at("free").addEventListener("change", (event) => {
  at("plots").classList.toggle("only-free", event.target.checked);
  later(() => { at("count").textContent = event.target.checked ? "2 free plots" : "4 plots"; });
});

const bed = at("bed"), beds = at("beds");
const showBeds = (isOpen) => { beds.hidden = !isOpen; bed.setAttribute("aria-expanded", isOpen); };
const choose = (option) => {
  for (const each of beds.children) each.setAttribute("aria-selected", each === option);
  if (option) bed.setAttribute("aria-activedescendant", option.id); else bed.removeAttribute("aria-activedescendant");
};
bed.addEventListener("keydown", (event) => {
  const shown = [...beds.children], now = shown.findIndex((each) => each.getAttribute("aria-selected") === "true");
  if (event.key === "ArrowDown") { showBeds(true); choose(shown[(now + 1) % shown.length]); event.preventDefault(); }
  if (event.key === "ArrowUp") { showBeds(true); choose(shown.at(now < 1 ? -1 : now - 1)); event.preventDefault(); }
  if (event.key === "Enter" && now >= 0) { bed.value = shown[now].textContent; showBeds(false); choose(null); }
  if (event.key === "Escape") { showBeds(false); choose(null); }
});

at("confirm").addEventListener("click", () => {
  at("reservation").close();
  later(() => { at("live").textContent = "Plot 8 is yours"; });
});

const seasons = {spring: "Sow peas under glass.", autumn: "Lift the potatoes."};
const tabs = Object.keys(seasons).map(at);
const select = (tab) => {
  for (const each of tabs) { each.setAttribute("aria-selected", each === tab); each.tabIndex = each === tab ? 0 : -1; }
  at("season").setAttribute("aria-labelledby", tab.id);
  at("season-text").textContent = seasons[tab.id];
};
for (const tab of tabs) {
  tab.addEventListener("click", () => select(tab));
  tab.addEventListener("keydown", (event) => {
    if (event.key !== "ArrowRight" && event.key !== "ArrowLeft") return;
    const other = tabs[(tabs.indexOf(tab) + 1) % tabs.length];
    select(other);
    other.focus();
  });
}

const pictures = ["the meadow", "the pump", "the compost"];
let picture = 0;
at("next-picture").addEventListener("click", () => {
  picture = (picture + 1) % pictures.length;
  at("picture").textContent = `Picture ${picture + 1} of 3: ${pictures[picture]}`;
});

at("ask").addEventListener("submit", (event) => {
  event.preventDefault();
  for (const id of ["name", "question"]) {
    at(id).setAttribute("aria-invalid", "true");
    at(`${id}-error`).textContent = id === "name" ? "Give your name" : "Give your question";
  }
  at("errors").hidden = false;
  at("errors").focus();
});

// The tip goes on Escape, and is there again the next time.
document.addEventListener("keydown", (event) => {
  if (event.key === "Escape") at("water-tip").classList.add("away");
});
for (const name of ["mouseenter", "focus"]) {
  at("water").addEventListener(name, () => at("water-tip").classList.remove("away"));
}

at("older").addEventListener("click", () => {
  const first = document.createElement("li");
  first.textContent = "A ladder is missing.";
  first.tabIndex = -1;
  at("notices").append(first);
  first.focus();
});

at("map-link").addEventListener("click", (event) => {
  event.preventDefault();
  history.pushState({}, "", "desk-map.html");
  document.title = "Map, Fernhollow Allotments";
  at("title").textContent = "Map of the plots";
  at("title").focus();
});
