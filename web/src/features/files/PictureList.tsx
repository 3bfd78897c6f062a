import { useState } from "react";
import { asPng, fileName, handOver, standalone } from "../../draw/save";
import { Button, Trouble } from "../../ui/parts";

interface Picture {
  svg: SVGSVGElement;
  label: string;
}

const onThePage = (): Picture[] =>
  [...document.querySelectorAll<SVGSVGElement>('main :is(svg[role="img"], svg[data-picture])')]
    .filter((svg) => svg.getBoundingClientRect().width > 0)
    .map((svg) => ({
      svg,
      label: svg.getAttribute("aria-label") ?? svg.getAttribute("data-picture") ?? "Picture",
    }));

/** The pictures of the page that is shown, each to be had as a file. */
export function PictureList() {
  const [found] = useState(onThePage);
  const [error, setError] = useState<unknown>(null);
  const png = ({ svg, label }: Picture) =>
    asPng(svg).then(
      (blob) => handOver(blob, `${fileName(label)}.png`),
      (wrong: unknown) => setError(wrong),
    );
  const svg = ({ svg: drawn, label }: Picture) =>
    handOver(new Blob([standalone(drawn)], { type: "image/svg+xml" }), `${fileName(label)}.svg`);
  return (
    <>
      {found.length === 0 && <p className="text-soft">There is none on this page.</p>}
      <ul className="divide-y divide-line">
        {found.map((one) => (
          <li key={one.label} className="flex flex-wrap items-center gap-2 py-2">
            <span className="min-w-0 grow basis-40">{one.label.split(":")[0]}</span>
            <Button aria-label={`${one.label.split(":")[0]} as SVG`} onClick={() => svg(one)}>
              SVG
            </Button>
            <Button aria-label={`${one.label.split(":")[0]} as PNG`} onClick={() => void png(one)}>
              PNG
            </Button>
          </li>
        ))}
      </ul>
      {error !== null && <Trouble error={error} />}
    </>
  );
}
