import { type ComponentType, lazy, Suspense } from "react";

/** The Deck's sheets come when they are first opened: they bring the form library, which calling fish does not need. */
export const RunSheet = onFirstOpening(async () => (await import("./RunSheet")).RunSheet);
export const WaterSheet = onFirstOpening(async () => (await import("./WaterSheet")).WaterSheet);
export const OpenOutingSheet = onFirstOpening(async () => (await import("./OpenOutingSheet")).OpenOutingSheet);

function onFirstOpening<Props extends object>(load: () => Promise<ComponentType<Props>>) {
  const Loaded = lazy(async () => ({ default: await load() })) as unknown as ComponentType<Props>;
  return function LazySheet(props: Props) {
    return (
      <Suspense fallback={null}>
        <Loaded {...props} />
      </Suspense>
    );
  };
}
