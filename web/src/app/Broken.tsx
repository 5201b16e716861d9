import { Button } from "@/ui/Button";

/** In place of a screen that could not be drawn. What was called or typed is kept where it always is. */
export function Broken({ error }: { error: unknown }) {
  return (
    <main className="flex max-w-[60ch] flex-col gap-3 p-6" role="alert">
      <p className="text-xl">This screen could not be drawn.</p>
      <p>
        Nothing that was kept is lost. Load it again; where that does not help, tell whoever runs this server what it
        says:
      </p>
      <p className="text-sm text-muted">{error instanceof Error ? error.message : String(error)}</p>
      <div>
        <Button look="ink" large onClick={() => location.reload()}>
          Load again
        </Button>
      </div>
    </main>
  );
}
