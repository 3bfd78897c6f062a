import { Link } from "wouter";
import { address } from "../../app/addresses";
import { useSharedWithMe } from "../../queries/account";
import { Panel } from "../../ui/parts";

/** What others let the angler read; nothing where nobody does. */
export function SharedWithMe() {
  const shared = useSharedWithMe();
  if (!shared.data || shared.data.length === 0) return null;
  return (
    <Panel title="Shared with you">
      <ul className="divide-y divide-line">
        {shared.data.map((one) => (
          <li key={one.id}>
            <Link
              to={address.shared(one.id)}
              className="flex min-h-14 items-center justify-between gap-3 underline underline-offset-4"
            >
              <span>
                {one.kind === "beat" ? one.name : `Outing of ${one.name}`}{" "}
                <span className="text-soft">by {one.owner}</span>
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </Panel>
  );
}
