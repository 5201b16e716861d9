// @vitest-environment jsdom
import { expect, it } from "vitest";
import { scope } from "@/features/deck/scope";
import { scopeKind } from "@/offline/scopes";

it("is found whichever module is read first", () => expect(scopeKind("outing")).toBe(scope));
