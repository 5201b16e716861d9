import { type ComponentType, lazy, Suspense } from "react";

/** The Deck's sheets come when they are first opened: calling fish does not need them, nor the form library. */
export const RunSheet = onFirstOpening(async () => (await import("./RunSheet")).RunSheet);
export const WaterSheet = onFirstOpening(async () => (await import("./WaterSheet")).WaterSheet);
export const OpenOutingSheet = onFirstOpening(async () => (await import("./OpenOutingSheet")).OpenOutingSheet);
export const SigningSheet = onFirstOpening(async () => (await import("./SigningSheet")).SigningSheet);
export const RunMoreSheet = onFirstOpening(async () => (await import("./RunMoreSheet")).RunMoreSheet);
export const FishSheet = onFirstOpening(async () => (await import("./FishSheet")).FishSheet);
export const BathSheet = onFirstOpening(async () => (await import("./BathSheet")).BathSheet);
export const HandoverSheet = onFirstOpening(async () => (await import("./HandoverSheet")).HandoverSheet);
export const OrdersSheet = onFirstOpening(async () => (await import("./OrdersSheet")).OrdersSheet);

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
