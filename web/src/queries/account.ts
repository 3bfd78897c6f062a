/** What the screens ask of an account, its sessions and its shares. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, unwrap } from "../api/client";
import type { components } from "../api/generated";

type Schemas = components["schemas"];
export type SignUp = Schemas["SignUpIn"];
export type ShareIn = Schemas["ShareIn"];
export type Share = Schemas["ShareOut"];
export type Shared = Schemas["SharedOut"];
export type Letter = Schemas["LetterOut"];

/** What is kept on the device comes with the app: nobody waits for it to sign in. */
const here = () => import("../local/angler");

/** Signing in as the demo angler, with a password, or for the first time. */
export function useArriving() {
  const client = useQueryClient();
  const onSuccess = async (session: Schemas["SessionOut"]) => (await here()).arrive(client, session);
  const demo = useMutation({ mutationFn: () => unwrap(api.POST("/api/session/demo")), onSuccess });
  const signIn = useMutation({
    mutationFn: (body: Schemas["SignInIn"]) => unwrap(api.POST("/api/session", { body })),
    onSuccess,
  });
  const signUp = useMutation({
    mutationFn: (body: SignUp) => unwrap(api.POST("/api/account", { body })),
    onSuccess,
  });
  return { demo, signIn, signUp };
}

export function useSignOut() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: () => unwrap(api.DELETE("/api/session")),
    onSuccess: async (session) => (await here()).depart(client, session),
  });
}

export const useForgot = () =>
  useMutation({
    mutationFn: (email: string) => unwrap(api.POST("/api/account/forgot", { body: { email } })),
  });
export const useConfirm = () =>
  useMutation({
    mutationFn: (ticket: string) => unwrap(api.POST("/api/account/confirm", { body: { ticket } })),
  });
export const useReset = () =>
  useMutation({
    mutationFn: (body: Schemas["ResetIn"]) => unwrap(api.POST("/api/account/reset", { body })),
  });
export const usePassword = () =>
  useMutation({
    mutationFn: (body: Schemas["PasswordIn"]) => unwrap(api.PUT("/api/account/password", { body })),
  });

export function useAnglerChange() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["AnglerIn"]) => unwrap(api.PUT("/api/angler", { body })),
    onSuccess: () => client.invalidateQueries({ queryKey: ["session"] }),
  });
}

export const useSessions = () =>
  useQuery({ queryKey: ["sessions"], queryFn: () => unwrap(api.GET("/api/sessions")) });

export function useEndSession() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: string) =>
      unwrap(api.DELETE("/api/sessions/{session_id}", { params: { path: { session_id: id } } })),
    onSuccess: () => client.invalidateQueries({ queryKey: ["sessions"] }),
  });
}

/** Leaving, and staying after all. */
export function useLeaving() {
  const client = useQueryClient();
  const onSuccess = () => client.invalidateQueries({ queryKey: ["session"] });
  const leave = useMutation({
    mutationFn: (password: string) => unwrap(api.POST("/api/account/leave", { body: { password } })),
    onSuccess,
  });
  const stay = useMutation({ mutationFn: () => unwrap(api.POST("/api/account/stay")), onSuccess });
  return { leave, stay };
}

export const useLetters = () =>
  useQuery({
    queryKey: ["letters"],
    queryFn: () => unwrap(api.GET("/api/account/letters")),
    refetchInterval: 3000,
  });

export const useShares = () =>
  useQuery({ queryKey: ["shares"], queryFn: () => unwrap(api.GET("/api/shares")) });
export const useSharedWithMe = () =>
  useQuery({ queryKey: ["shared"], queryFn: () => unwrap(api.GET("/api/shared")) });
export const useShared = (id: string) =>
  useQuery({
    queryKey: ["shared", id],
    queryFn: () => unwrap(api.GET("/api/shared/{share_id}", { params: { path: { share_id: id } } })),
  });

export function useSharing() {
  const client = useQueryClient();
  const onSuccess = () => client.invalidateQueries({ queryKey: ["shares"] });
  const put = useMutation({
    mutationFn: ({ id, body }: { id: string; body: ShareIn }) =>
      unwrap(api.PUT("/api/shares/{share_id}", { params: { path: { share_id: id } }, body })),
    onSuccess,
  });
  const revoke = useMutation({
    mutationFn: (id: string) =>
      unwrap(api.DELETE("/api/shares/{share_id}", { params: { path: { share_id: id } } })),
    onSuccess,
  });
  return { put, revoke };
}
