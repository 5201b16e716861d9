import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, api, type Schemas } from "@/api/client";
import { useSetSession } from "@/session";

const of = (programme_id: string) => ({ params: { path: { programme_id } } });

export function useProgramme(programme: string) {
  return useQuery({
    queryKey: ["programme", programme],
    queryFn: () => answer(api.GET("/api/v1/programmes/{programme_id}", of(programme))),
  });
}

export function useChangeProgramme(programme: string) {
  const refresh = useRefreshSession();
  return useMutation({
    mutationFn: (body: Schemas["ChangeProgrammeRequest"]) =>
      answer(api.POST("/api/v1/programmes/{programme_id}", { ...of(programme), body })),
    onSuccess: refresh,
  });
}

/** Who one is and where is asked anew: names, units and languages stand in the session. */
export function useRefreshSession() {
  const setSession = useSetSession();
  return async () => setSession(await answer(api.GET("/api/v1/session")));
}

/** Something is done to the people of a programme; its list is asked for anew. */
function usePeopleStep<T, R>(programme: string, step: (given: T) => Promise<R>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: step,
    onSuccess: () => {
      void client.invalidateQueries({ queryKey: ["people", programme] });
      void client.invalidateQueries({ queryKey: ["today"] });
    },
  });
}

export function useInvite(programme: string) {
  return usePeopleStep(programme, (body: Schemas["InviteRequest"]) =>
    answer(api.POST("/api/v1/programmes/{programme_id}/invitations", { ...of(programme), body })),
  );
}

export function useWithdraw(programme: string) {
  return usePeopleStep(programme, (invitation_id: string) =>
    answer(api.DELETE("/api/v1/invitations/{invitation_id}", { params: { path: { invitation_id } } })),
  );
}

type ChangeMember = Schemas["ChangeMemberRequest"] & { member: string };

export function useChangeMember(programme: string) {
  return usePeopleStep(programme, ({ member, ...body }: ChangeMember) =>
    answer(api.POST("/api/v1/members/{member_id}", { params: { path: { member_id: member } }, body })),
  );
}

export function useShutOut(programme: string) {
  return usePeopleStep(programme, (member_id: string) =>
    answer(api.POST("/api/v1/members/{member_id}/shut-out", { params: { path: { member_id } } })),
  );
}

export function usePasswordLink(programme: string) {
  return usePeopleStep(programme, (member_id: string) =>
    answer(api.POST("/api/v1/members/{member_id}/password-link", { params: { path: { member_id } } })),
  );
}

export function useForgetMember(programme: string) {
  return usePeopleStep(programme, (gone_id: string) =>
    answer(api.POST("/api/v1/members/{gone_id}/forget", { params: { path: { gone_id } } })),
  );
}

/** Fish that were called as other, by their names. */
export function useOthers(programme: string) {
  return useQuery({
    queryKey: ["others", programme],
    queryFn: () => answer(api.GET("/api/v1/programmes/{programme_id}/others", of(programme))),
  });
}

export function useNameOthers(programme: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["NameOthersRequest"]) =>
      answer(api.POST("/api/v1/programmes/{programme_id}/others", { ...of(programme), body })),
    onSuccess: () => client.invalidateQueries({ queryKey: ["others"] }),
  });
}

/** The line through the programme's own fish. */
export function useOwnLine(programme: string, code: string) {
  return useMutation({
    mutationFn: () =>
      answer(
        api.GET("/api/v1/programmes/{programme_id}/species/{code}/own-line", {
          params: { path: { programme_id: programme, code } },
        }),
      ),
  });
}

export function useAccount() {
  return useQuery({ queryKey: ["account"], queryFn: () => answer(api.GET("/api/v1/account")) });
}

export function useChangeAccount() {
  const client = useQueryClient();
  const refresh = useRefreshSession();
  return useMutation({
    mutationFn: (body: Schemas["ChangeAccountRequest"]) => answer(api.POST("/api/v1/account", { body })),
    onSuccess: async (account) => {
      await refresh();
      client.setQueryData(["account"], account);
    },
  });
}

export function useTokens() {
  return useQuery({ queryKey: ["tokens"], queryFn: () => answer(api.GET("/api/v1/tokens")) });
}

export function useTokenStep() {
  const client = useQueryClient();
  const onSuccess = () => client.invalidateQueries({ queryKey: ["tokens"] });
  const make = useMutation({
    mutationFn: (body: Schemas["NewTokenRequest"]) => answer(api.POST("/api/v1/tokens", { body })),
    onSuccess,
  });
  const end = useMutation({
    mutationFn: (token_id: string) =>
      answer(api.DELETE("/api/v1/tokens/{token_id}", { params: { path: { token_id } } })),
    onSuccess,
  });
  return { make, end };
}

export function useDecide(programme: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["DecideRequest"]) =>
      answer(api.POST("/api/v1/programmes/{programme_id}/protocol", { ...of(programme), body })),
    onSuccess: () => {
      for (const key of ["protocol", "today", "survey", "settings", "finding", "kit"])
        void client.invalidateQueries({ queryKey: [key] });
    },
  });
}
