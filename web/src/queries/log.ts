/** The log as the service has it. */
import { useQuery } from "@tanstack/react-query";
import { api, unwrap } from "../api/client";

export const useOutings = () =>
  useQuery({ queryKey: ["outings"], queryFn: () => unwrap(api.GET("/api/outings")) });

export const useLedger = (id: string) =>
  useQuery({
    queryKey: ["ledger", id],
    queryFn: () => unwrap(api.GET("/api/outings/{outing_id}", { params: { path: { outing_id: id } } })),
  });
