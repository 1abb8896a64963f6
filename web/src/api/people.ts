import {
  useMutation,
  useQuery,
  useQueryClient,
  type UseMutationResult,
  type UseQueryResult,
} from "@tanstack/react-query";
import { bodyOf, client, listOf, type Schemas } from "./client";
import type { Session } from "./queries";

export type People = Schemas["PeopleOut"];
export type SignInRow = Schemas["SignInOut"];
export type Access = Schemas["AccessOut"];

export const usePeople = (): UseQueryResult<People> =>
  useQuery({
    queryKey: ["people"],
    queryFn: async () => bodyOf("PeopleOut", await client.GET("/api/people")),
  });

export const useSignIns = (): UseQueryResult<SignInRow[]> =>
  useQuery({
    queryKey: ["sign-ins"],
    queryFn: async () => listOf("SignInOut", await client.GET("/api/session/sign-ins")),
  });

/** Where Bilge is reached: it does not change while it runs. */
export const useAccess = (): UseQueryResult<Access> =>
  useQuery({
    queryKey: ["access"],
    staleTime: Infinity,
    queryFn: async () => bodyOf("AccessOut", await client.GET("/api/session/access")),
  });

/** A change of who works here, after which the people are asked for again. */
function usePeopleChange<Given, Told>(
  change: (given: Given) => Promise<Told>,
): UseMutationResult<Told, Error, Given> {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSettled: () => queries.invalidateQueries({ queryKey: ["people"] }),
  });
}

export const useInvite = (): UseMutationResult<Schemas["NewInvitationOut"], Error, void> =>
  usePeopleChange(async () =>
    bodyOf("NewInvitationOut", await client.POST("/api/people/invitations")),
  );

export const useTakeBack = (): UseMutationResult<void, Error, number> =>
  usePeopleChange(async (id) => {
    await client.DELETE("/api/people/invitations/{invitation_id}", {
      params: { path: { invitation_id: id } },
    });
  });

const at = (id: number) => ({ params: { path: { user_id: id } } });

export const useRemoveMember = (): UseMutationResult<void, Error, number> =>
  usePeopleChange(async (id) => {
    await client.DELETE("/api/people/{user_id}", at(id));
  });

export const useHandOver = (): UseMutationResult<void, Error, number> =>
  usePeopleChange(async (id) => {
    await client.POST("/api/people/{user_id}/owner", at(id));
  });

export function useEndSignIn(): UseMutationResult<void, Error, number> {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (id) => {
      await client.DELETE("/api/session/sign-ins/{sign_in_id}", {
        params: { path: { sign_in_id: id } },
      });
    },
    onSettled: () => queries.invalidateQueries({ queryKey: ["sign-ins"] }),
  });
}

export function useChangePassword(): UseMutationResult<void, Error, Schemas["PasswordIn"]> {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (body) => {
      await client.PUT("/api/session/password", { body });
    },
    onSuccess: () => queries.invalidateQueries({ queryKey: ["sign-ins"] }),
  });
}

/** Whose workshop an invitation opens. */
export const useInvited = (secret: string): UseQueryResult<Schemas["InvitedOut"]> =>
  useQuery({
    queryKey: ["invited", secret],
    retry: false,
    queryFn: async () =>
      bodyOf("InvitedOut", await client.POST("/api/session/invitation", { body: { secret } })),
  });

export function useJoin(): UseMutationResult<Session, Error, Schemas["JoinIn"]> {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (body) =>
      bodyOf("SessionOut", await client.POST("/api/session/join", { body })),
    onSuccess: (session) => {
      queries.clear();
      queries.setQueryData(["session"], session);
    },
  });
}
