// @vitest-environment jsdom
import { expect, it } from "vitest";
import { scopeKind } from "@/offline/scopes";
import { scope } from "./scope";

it("is found whichever module is read first", () => expect(scopeKind("outing")).toBe(scope));
