import { useQuery, useQueryClient } from "@tanstack/react-query";
import { createContext, type ReactNode, useContext, useEffect } from "react";
import { answer, api, type Schemas } from "@/api/client";
import { recall, remember } from "@/offline/database";
import { sender } from "@/offline/sender";

export type Session = Schemas["Session"];
export type Membership = Schemas["Membership"];

const SESSION = ["session"];

/** Who is signed in; where the server gives no answer, who was last, so that the Deck works with no signal. */
export function useSession() {
  return useQuery({
    queryKey: SESSION,
    queryFn: async () => {
      try {
        const session = await answer(api.GET("/api/v1/session"));
        await remember("session", session);
        return session;
      } catch (failure) {
        const last = await recall<Session>("session");
        if (failure instanceof TypeError && last?.person) return last;
        throw failure;
      }
    },
    staleTime: 60_000,
    retry: false,
  });
}

export function useSetSession() {
  const client = useQueryClient();
  return async (session: Session) => {
    await remember("session", session);
    client.removeQueries({ predicate: ({ queryKey }) => queryKey[0] !== SESSION[0] });
    client.setQueryData(SESSION, session);
  };
}

interface Here {
  person: NonNullable<Session["person"]>;
  membership: Membership;
  may: (permission: string) => boolean;
}

const HereContext = createContext<Here | null>(null);

/** Everything below knows who works and in which programme. */
export function HereProvider({ session, children }: { session: Session; children: ReactNode }) {
  const { person, memberships } = session;
  const membership = memberships[0];
  useEffect(() => sender.start(person?.id ?? null), [person?.id]);
  if (!person || !membership) return null;
  const may = (permission: string) => membership.may.includes(permission);
  return <HereContext.Provider value={{ person, membership, may }}>{children}</HereContext.Provider>;
}

export function useHere(): Here {
  const here = useContext(HereContext);
  if (!here) throw new Error("useHere needs a HereProvider above it");
  return here;
}
