import { useState } from "react";
import { useFormats } from "../../queries/imports";
import { Button, Trouble, Working } from "../../ui/parts";
import { Sheet } from "../../ui/sheet";
import { PictureList } from "./PictureList";

interface Props {
  /** What is saved, in words. */
  what: string;
  /** One outing, or those that fit some words. */
  which: { outing: string } | { find: string };
  onClose: () => void;
}

/** Outings as a file: in which format, and with places hidden or where they are. */
export function SaveSheet({ what, which, onClose }: Props) {
  const formats = useFormats();
  const [exact, setExact] = useState(false);
  const zone = Intl.DateTimeFormat().resolvedOptions().timeZone || "UTC";
  const query = new URLSearchParams({ ...which, zone, exact: String(exact) });
  const offered = formats.data?.filter((one) => one.writes && (one.many || "outing" in which)) ?? [];
  return (
    <Sheet title={`Save ${what}`} open onClose={onClose}>
      {formats.isPending && <Working what="Looking which formats there are" />}
      {formats.isError && <Trouble error={formats.error} retry={() => formats.refetch()} />}
      <ul className="space-y-2">
        {offered.map((one) => (
          <li key={one.name}>
            <a
              className="block min-h-14 rounded-xl border border-line bg-paper px-4 py-2"
              href={`/api/files/${one.name}?${query}`}
              download
              onClick={onClose}
            >
              <span className="font-semibold">{one.title}</span>
              <span className="block text-sm text-soft">
                {one.holds} Left out: {one.loses}
              </span>
            </a>
          </li>
        ))}
      </ul>
      {offered.some((one) => one.hides) && (
        <label className="flex min-h-11 items-center gap-3">
          <input
            type="checkbox"
            className="size-6"
            checked={exact}
            onChange={(event) => setExact(event.target.checked)}
          />
          With exact places, where a format would hide them
        </label>
      )}
      {"outing" in which && <PictureList />}
      <Button className="w-full" onClick={onClose}>
        Leave it
      </Button>
    </Sheet>
  );
}
