import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act } from "react";
import { expect, it, vi } from "vitest";
import { ours } from "@/api/testing";
import { press, show } from "@/testing/screen";
import { isGoing, type Job, JobProgress } from "./JobProgress";

const job = (more: Partial<Job>): Job => ({
  id: "j1",
  title: "Trying fish.csv",
  state: "running",
  done: 0,
  total: 0,
  stop_asked: false,
  error: null,
  ...more,
});

function shown(more: Partial<Job>, onStop = vi.fn()) {
  show(
    <QueryClientProvider client={new QueryClient()}>
      <JobProgress job={job(more)} of="lines" onStop={onStop} />
    </QueryClientProvider>,
  );
  return document.body.textContent ?? "";
}

it("says how far it is, also before the end is known", () => {
  expect(shown({ done: 2000, total: 12_550 })).toContain("2,000 of 12,550 lines");
  expect(document.querySelector("progress")!.value).toBe(2000);
  expect(shown({ done: 2000 })).toContain("2,000 lines");
  expect(document.querySelector("progress")!.hasAttribute("value")).toBe(false);
  expect(shown({ state: "waiting" })).toContain("Waiting for the worker");
});

it("says how it ended, where that was not well", () => {
  expect(shown({ state: "failed", error: { code: "x", message: "The worker went away.", field: null } })).toBe(
    "The worker went away.",
  );
  expect(shown({ state: "stopped" })).toContain("Nothing of it was stored");
  expect(shown({ state: "done" })).toBe("");
});

it("can be stopped, once", async () => {
  const asked: string[] = [];
  vi.stubGlobal("fetch", async (request: Request) => {
    asked.push(new URL(request.url).pathname);
    return ours(job({ stop_asked: true }));
  });
  const onStop = vi.fn();
  shown({ total: 10 }, onStop);
  press("Stop");
  await act(() => new Promise((resolve) => setTimeout(resolve, 20)));
  expect(asked).toEqual(["/api/v1/jobs/j1/stop"]);
  expect(onStop).toHaveBeenCalledOnce();
  expect(shown({ total: 10, stop_asked: true })).toContain("Stopping...");
  expect(document.querySelector("button")!.disabled).toBe(true);
});

it("knows what still goes", () => {
  expect(
    (["waiting", "running", "done", "stopped", "failed"] as const).map((state) => isGoing(job({ state }))),
  ).toEqual([true, true, false, false, false]);
  expect(isGoing(null)).toBe(false);
});
