// The desk as it was found: it works for those who see it and point at it.
const at = (id) => document.getElementById(id);

for (const id of ["fields", "south"]) {
  at(id).addEventListener("click", () => { at(`${id}-menu`).hidden = !at(`${id}-menu`).hidden; });
}

at("free").addEventListener("change", (event) => {
  at("plots").classList.toggle("only-free", event.target.checked);
  setTimeout(() => { at("count").textContent = event.target.checked ? "2 free plots" : "4 plots"; }, 300);
});

at("bed").addEventListener("input", () => { at("beds").hidden = at("bed").value === ""; });
for (const each of at("beds").children) {
  each.addEventListener("click", () => { at("bed").value = each.textContent; at("beds").hidden = true; });
}

at("reserve").addEventListener("click", () => at("reservation").classList.add("shown"));
at("close").addEventListener("click", () => at("reservation").classList.remove("shown"));
at("confirm").addEventListener("click", () => {
  at("reservation").remove();  // and the focus with it
  setTimeout(() => { at("live").textContent = "Plot 8 is yours"; }, 300);
});

const seasons = {spring: "Sow peas under glass.", autumn: "Lift the potatoes."};
for (const id of Object.keys(seasons)) {
  at(id).addEventListener("click", () => { at("season-text").textContent = seasons[id]; });
}

const pictures = ["the meadow", "the pump", "the compost"];
let picture = 0;
at("next-picture").addEventListener("click", () => {
  picture = (picture + 1) % pictures.length;
  at("picture").textContent = `Picture ${picture + 1} of 3: ${pictures[picture]}`;
});

at("ask").addEventListener("submit", (event) => {
  event.preventDefault();
  at("errors").textContent = "Please fill in the red fields.";
  for (const id of ["name", "question"]) at(id).style.borderColor = "red";
});

addEventListener("scroll", () => {
  if (innerHeight + scrollY < document.body.offsetHeight - 40 || at("notices").children.length > 20) return;
  const more = document.createElement("li");
  more.textContent = "A ladder is missing.";
  at("notices").append(more);
});

at("code").addEventListener("blur", () => { if (at("code").value !== "1234") at("code").focus(); });

at("map-link").addEventListener("click", (event) => {
  event.preventDefault();
  history.pushState({}, "", "desk-map.html");
  document.title = "Map, Fernhollow Allotments";
  at("title").textContent = "Map of the plots";
});
