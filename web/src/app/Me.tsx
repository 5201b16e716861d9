import { Link } from "@tanstack/react-router";
import { useState } from "react";
import { useHere } from "@/session";
import { Sheet } from "@/ui/Sheet";

const SETTINGS = [
  { part: "account", title: "My account: name, units, password, tokens" },
  { part: "programme", title: "Programme: name, time zone, units" },
  { part: "waters", title: "Waters and sites" },
  { part: "species", title: "Species that are called" },
  { part: "people", title: "People and invitations" },
] as const;

/** Who one is, and the way to all that is settled once. */
export function Me({ children }: { children?: React.ReactNode }) {
  const { person, membership } = useHere();
  const [open, setOpen] = useState(false);
  return (
    <>
      <button
        type="button"
        className="min-h-[44px] cursor-pointer text-sm hover:underline"
        onClick={() => setOpen(true)}
      >
        {person.name}, <span className="text-muted">{membership.role}</span>
      </button>
      <Sheet
        open={open}
        onOpenChange={setOpen}
        title={person.name}
        description={`${membership.role} of ${membership.programme_name}`}
      >
        {children}
        <nav aria-label="Settings">
          <h3 className="font-semibold">Settings</h3>
          <ul className="mt-1">
            {SETTINGS.map(({ part, title }) => (
              <li key={part} className="border-t border-line">
                <Link
                  to="/settings/$part"
                  params={{ part }}
                  className="flex min-h-[44px] items-center hover:bg-wash"
                  onClick={() => setOpen(false)}
                >
                  {title}
                </Link>
              </li>
            ))}
          </ul>
        </nav>
      </Sheet>
    </>
  );
}
