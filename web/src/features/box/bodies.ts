import type { BoxItem, BoxItemIn } from "../../api/client";

/** What is in the box, as it is sent. */
export function bodyOf(item: BoxItem): BoxItemIn {
  if (item.kind === "float") return { kind: "float", size_mm: item.size_mm ?? 0, count: item.left };
  if (item.kind === "dry") return { kind: "dry", form: item.form, count: item.left };
  return {
    kind: "nymph",
    form: item.form,
    hook: item.hook ?? 14,
    bead_mm: item.bead_mm,
    material: item.material,
    dressing: item.dressing ?? "dubbed",
    tone: item.tone,
    mark: item.mark,
    count: item.left,
    tank: item.tank,
  };
}
