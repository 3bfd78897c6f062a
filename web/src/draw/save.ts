/** Pictures as files: an SVG that stands by itself, or a PNG of it. */

/** What a drawing takes from the page around it. */
const STYLES = [
  ...[
    "fill",
    "fill-opacity",
    "stroke",
    "stroke-width",
    "stroke-opacity",
    "stroke-dasharray",
    "stroke-linecap",
  ],
  ...["opacity", "font-family", "font-size", "font-weight", "text-anchor", "dominant-baseline", "visibility"],
];
const SCALE = 2;
const REVOKE_MS = 60_000;

/** A drawing with all its looks in it, on the colour of the page. */
export function standalone(svg: SVGSVGElement): string {
  const copy = svg.cloneNode(true) as SVGSVGElement;
  const { width, height } = svg.getBoundingClientRect();
  const from = [svg, ...svg.querySelectorAll("*")];
  const to = [copy, ...copy.querySelectorAll("*")];
  from.forEach((one, k) => {
    const look = getComputedStyle(one);
    // as attributes: the page allows no styles in its elements
    for (const name of STYLES) to[k]?.setAttribute(name, look.getPropertyValue(name));
    for (const name of ["style", "class"]) to[k]?.removeAttribute(name);
  });
  copy.setAttribute("xmlns", "http://www.w3.org/2000/svg");
  if (!copy.hasAttribute("viewBox")) copy.setAttribute("viewBox", `0 0 ${width} ${height}`);
  copy.setAttribute("width", String(width));
  copy.setAttribute("height", String(height));
  const ground = document.createElementNS("http://www.w3.org/2000/svg", "rect");
  const box = copy.getAttribute("viewBox")?.split(/[\s,]+/) ?? [];
  for (const [k, name] of ["x", "y", "width", "height"].entries()) ground.setAttribute(name, box[k] ?? "0");
  ground.setAttribute("fill", getComputedStyle(document.body).backgroundColor);
  copy.prepend(ground);
  return new XMLSerializer().serializeToString(copy);
}

/** A drawing as dots, twice as fine as on the screen. */
export async function asPng(svg: SVGSVGElement): Promise<Blob> {
  const { width, height } = svg.getBoundingClientRect();
  const image = new Image();
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(standalone(svg))}`;
  await image.decode();
  const canvas = document.createElement("canvas");
  canvas.width = Math.round(width * SCALE);
  canvas.height = Math.round(height * SCALE);
  canvas.getContext("2d")?.drawImage(image, 0, 0, canvas.width, canvas.height);
  return new Promise((done, failed) =>
    canvas.toBlob(
      (blob) => (blob ? done(blob) : failed(new Error("This picture could not be made."))),
      "image/png",
    ),
  );
}

/** Hand a file to whoever asked for it. */
export function handOver(blob: Blob, name: string): void {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(blob);
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), REVOKE_MS);
}

/** What a picture is called as a file. */
export const fileName = (label: string): string =>
  label
    .split(":")[0]
    ?.normalize("NFKD")
    .replace(/\p{M}/gu, "")
    .replace(/[^\w]+/g, "-")
    .replace(/^-|-$/g, "")
    .toLowerCase()
    .slice(0, 60) || "picture";
