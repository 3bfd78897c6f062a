import { useState } from "react";
import { asPng, fileName, handOver, standalone } from "../../draw/save";
import { Button, Trouble } from "../../ui/parts";
import { Sheet } from "../../ui/sheet";

interface Picture {
  svg: SVGSVGElement;
  label: string;
}

const onThePage = (): Picture[] =>
  [...document.querySelectorAll<SVGSVGElement>('main svg[role="img"]')]
    .filter((svg) => svg.getBoundingClientRect().width > 0)
    .map((svg) => ({ svg, label: svg.getAttribute("aria-label") ?? "Picture" }));

/** The pictures of the page that is shown, each to be had as a file. */
export function Pictures() {
  const [found, setFound] = useState<Picture[] | null>(null);
  const [error, setError] = useState<unknown>(null);
  const png = ({ svg, label }: Picture) =>
    asPng(svg).then(
      (blob) => handOver(blob, `${fileName(label)}.png`),
      (wrong: unknown) => setError(wrong),
    );
  return (
    <>
      <Button look="quiet" className="mt-4 px-2 text-sm print:hidden" onClick={() => setFound(onThePage())}>
        Save a picture of this page
      </Button>
      {found && (
        <Sheet title="Pictures of this page" open onClose={() => setFound(null)}>
          {found.length === 0 && <p className="text-soft">There is none on it.</p>}
          <ul className="divide-y divide-line">
            {found.map((one) => (
              <li key={one.label} className="flex flex-wrap items-center gap-2 py-2">
                <span className="min-w-0 grow basis-40">{one.label.split(":")[0]}</span>
                <Button
                  aria-label={`${one.label.split(":")[0]} as SVG`}
                  onClick={() =>
                    handOver(
                      new Blob([standalone(one.svg)], { type: "image/svg+xml" }),
                      `${fileName(one.label)}.svg`,
                    )
                  }
                >
                  SVG
                </Button>
                <Button aria-label={`${one.label.split(":")[0]} as PNG`} onClick={() => void png(one)}>
                  PNG
                </Button>
              </li>
            ))}
          </ul>
          {error !== null && <Trouble error={error} />}
          <Button className="w-full" onClick={() => setFound(null)}>
            Done
          </Button>
        </Sheet>
      )}
    </>
  );
}
