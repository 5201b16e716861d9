import { type ComponentType, lazy, Suspense } from "react";

/** The Deck's sheets come when they are first opened: calling fish does not need them, nor the form library. */
export const RunSheet = onFirstOpening(async () => (await import("./runs/RunSheet")).RunSheet);
export const RunEndSheet = onFirstOpening(async () => (await import("./runs/RunEndSheet")).RunEndSheet);
export const WaterSheet = onFirstOpening(async () => (await import("./runs/WaterSheet")).WaterSheet);
export const OpenOutingSheet = onFirstOpening(async () => (await import("./outing/OpenOutingSheet")).OpenOutingSheet);
export const SigningSheet = onFirstOpening(async () => (await import("./outing/SigningSheet")).SigningSheet);
export const OneHandSheet = onFirstOpening(async () => (await import("./calling/OneHandSheet")).OneHandSheet);
export const RunMoreSheet = onFirstOpening(async () => (await import("./runs/RunMoreSheet")).RunMoreSheet);
export const FishSheet = onFirstOpening(async () => (await import("./fish/FishSheet")).FishSheet);
export const BathSheet = onFirstOpening(async () => (await import("./handling/BathSheet")).BathSheet);
export const LaneSheet = onFirstOpening(async () => (await import("./handling/LaneSheet")).LaneSheet);
export const ReleaseAllSheet = onFirstOpening(async () => (await import("./handling/ReleaseAllSheet")).ReleaseAllSheet);
export const HandoverSheet = onFirstOpening(async () => (await import("./outing/HandoverSheet")).HandoverSheet);
export const OrdersSheet = onFirstOpening(async () => (await import("./outing/OrdersSheet")).OrdersSheet);

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
