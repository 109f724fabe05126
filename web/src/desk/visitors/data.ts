/** What the setup of visitors' sign-in asks for, and what it changes. */
import { queryOptions } from "@tanstack/react-query";

import { client, got, type Schema } from "../../client/client";

export const providerSetup = queryOptions({
  queryKey: ["identity providers"],
  queryFn: () => got(client.GET("/api/identity-providers")),
});

export const addProvider = (body: Schema<"ProviderIn">) =>
  got(client.POST("/api/identity-providers", { body }));

export const putProvider = (id: string, body: Schema<"ProviderPut">) =>
  got(client.PUT("/api/identity-providers/{id}", { params: { path: { id } }, body }));

export const removeProvider = (id: string) =>
  got(client.DELETE("/api/identity-providers/{id}", { params: { path: { id } } }));

export const lookAtProvider = (body: Schema<"ExamineIn">) =>
  got(client.POST("/api/identity-providers/look", { body }));
