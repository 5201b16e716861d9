import type { ScopeMessage } from "./document-store";
import type { Scope } from "./operation";

const open = ({ kind, id }: Scope) => new BroadcastChannel(`nailwright-${kind}-${id}`);

/** The other tabs of this browser that show the same. */
export const tabs = {
  tell(scope: Scope, message: ScopeMessage): void {
    const channel = open(scope);
    channel.postMessage(message);
    channel.close();
  },
  listen(scope: Scope, told: (message: ScopeMessage) => void): () => void {
    const channel = open(scope);
    channel.onmessage = ({ data }) => told(data as ScopeMessage);
    return () => channel.close();
  },
};
