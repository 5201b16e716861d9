import { type QueryClient, useQuery, useQueryClient } from "@tanstack/react-query";
import { createContext, type ReactNode, useContext, useEffect, useState } from "react";
import { answer, api, type Schemas } from "@/api/client";
import { clock } from "@/offline/clock";
import { recall, remember, rememberSignIn } from "@/offline/database";
import { sender } from "@/offline/sender";
import { setDayLanguage } from "@/ui/words/day-language";

/** Who is signed in. `expired`: the server does not know it any more; the Deck goes on, and nothing is sent until then. */
export type Session = Schemas["Session"] & { expired?: boolean };
export type Membership = Schemas["Membership"];

const SESSION = ["session"];
/** Tells the other tabs that somebody signed in or out. */
const TABS = "nailwright-session";

/**
 * Who is signed in; where the server gives no answer, or has forgotten, who was last, so that the Deck works all the same.
 *
 * Only signing out, here or in another tab, ends that.
 */
export function useSession() {
  return useQuery({
    queryKey: SESSION,
    queryFn: async (): Promise<Session> => {
      const last = await recall<Session>("session");
      try {
        const began = Date.now();
        const session = await answer(api.GET("/api/v1/session"));
        if (session.person) clock.compare(session.server_time, began);
        if (!session.person && last?.person) return { ...last, expired: true };
        await rememberSignIn(session);
        return session;
      } catch (failure) {
        // whatever answers in the server's place (no signal, a gateway, a captive portal in any shape): the work goes on
        if (last?.person) return last;
        throw failure;
      }
    },
    staleTime: 60_000,
    retry: false,
  });
}

/** Shows who was signed in last before the server is asked: a network that never answers does not hold up the Deck. */
export async function startWithLast(client: QueryClient): Promise<void> {
  const last = await recall<Session>("session").catch(() => undefined); // a browser that keeps nothing asks the server
  if (last?.person) client.setQueryData(SESSION, last, { updatedAt: 0 });
}

export function useSetSession() {
  const client = useQueryClient();
  return async (session: Session) => {
    await rememberSignIn(session);
    client.removeQueries({ predicate: ({ queryKey }) => queryKey[0] !== SESSION[0] });
    // an answer that is still on its way is of who was here before
    await client.cancelQueries({ queryKey: SESSION });
    client.setQueryData(SESSION, session);
    // asked once more beside it: that compares the clocks before the first entry
    if (session.person) void client.invalidateQueries({ queryKey: SESSION });
    const tabs = new BroadcastChannel(TABS);
    tabs.postMessage(session.person?.id ?? null);
    tabs.close();
  };
}

/** Leads to the sign-in page, for an entry of this person to be sent again; without an answer nothing changes. */
export function useSignInAgain() {
  const setSession = useSetSession();
  return async () => {
    const session = await answer(api.GET("/api/v1/session")).catch(() => null);
    if (!session) return false;
    await setSession({ ...session, person: null, memberships: [] });
    return true;
  };
}

/** Follows who signs in or out in other tabs, since they all send under one session. */
export function useOtherTabs(onChange: () => void) {
  const client = useQueryClient();
  useEffect(() => {
    const tabs = new BroadcastChannel(TABS);
    tabs.onmessage = async () => {
      const session = await recall<Session>("session");
      const before = client.getQueryData<Session>(SESSION);
      if (!session || session.person?.id === before?.person?.id) return;
      client.removeQueries({ predicate: ({ queryKey }) => queryKey[0] !== SESSION[0] });
      await client.cancelQueries({ queryKey: SESSION });
      client.setQueryData(SESSION, session);
      onChange();
    };
    return () => tabs.close();
  }, [client, onChange]);
}

interface Here {
  person: NonNullable<Session["person"]>;
  membership: Membership;
  memberships: readonly Membership[];
  /** Turns to another of one's programmes. */
  choose: (programme: string) => void;
  expired: boolean;
  may: (permission: string) => boolean;
}

const HereContext = createContext<Here | null>(null);

/** Everything below knows who works and in which programme. */
export function HereProvider({ session, children }: { session: Session; children: ReactNode }) {
  const { person, memberships, expired = false } = session;
  const client = useQueryClient();
  const [chosen, setChosen] = useState<string>();
  const key = `programme-of-${person?.id}`;
  useEffect(() => sender.start(person?.id ?? null), [person?.id]);
  useEffect(() => {
    setChosen(undefined);
    void recall<string>(key).then(setChosen);
  }, [key]);
  const membership = memberships.find(({ programme }) => programme === chosen) ?? memberships[0];
  if (!person || !membership) return null;
  setDayLanguage(membership.date_language);
  const choose = (programme: string) => {
    setChosen(programme);
    void remember(key, programme);
    client.removeQueries({ predicate: ({ queryKey }) => queryKey[0] !== SESSION[0] });
  };
  const may = (permission: string) => membership.may.includes(permission);
  return (
    <HereContext.Provider value={{ person, membership, memberships, choose, expired, may }}>
      {/* another programme, or another person: nothing of the one before stays on the screen */}
      <div key={`${person.id} ${membership.programme}`} className="contents">
        {children}
      </div>
    </HereContext.Provider>
  );
}

export function useHere(): Here {
  const here = useContext(HereContext);
  if (!here) throw new Error("useHere needs a HereProvider above it");
  return here;
}
