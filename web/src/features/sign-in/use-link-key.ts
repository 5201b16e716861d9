import { useState } from "react";

/** What stands behind the # of a link: it never reaches a log of addresses, and leaves the address line at once. */
export function useLinkKey(): string {
  const [key] = useState(() => decodeURIComponent(location.hash.slice(1)));
  return key;
}
