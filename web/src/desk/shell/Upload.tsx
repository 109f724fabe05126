/** Uploading a picture, a video or captions of one's own. */
import { useState } from "react";
import styled from "styled-components";

import { asBytes, client, ApiError, got, type Schema } from "../../client/client";
import { Strip } from "../../ui/Strip";

type Medium = Schema<"MediumOut">;

const Choose = styled.label`
  display: block;
  font-weight: 600;
  input {
    display: block;
    margin-top: 4px;
    width: 100%;
    font-weight: 400;
  }
`;

export const Seen = styled.img`
  display: block;
  max-width: 100%;
  max-height: 160px;
  border: 1px solid var(--line);
  border-radius: 3px;
`;

async function upload(id: string | null, file: File): Promise<Medium> {
  if (id === null) {
    return got(
      client.POST("/api/office/picture", {
        params: { query: { name: file.name } },
        ...asBytes(file),
      }),
    );
  }
  return got(
    client.POST("/api/questionnaires/{id}/media", {
      params: { path: { id }, query: { name: file.name } },
      ...asBytes(file),
    }),
  );
}

interface UploadProps {
  /** The questionnaire that it is for; null for the office. */
  id: string | null;
  label: string;
  accept: string;
  onUploaded: (medium: Medium) => void;
}

export function Upload({ id, label, accept, onUploaded }: UploadProps) {
  const [state, setState] = useState<{ busy: string; wrong: string }>({ busy: "", wrong: "" });
  const send = async (file: File | undefined) => {
    if (!file) return;
    setState({ busy: file.name, wrong: "" });
    try {
      onUploaded(await upload(id, file));
      setState({ busy: "", wrong: "" });
    } catch (error) {
      const wrong = error instanceof ApiError ? error.message : String(error);
      setState({ busy: "", wrong });
    }
  };
  return (
    <>
      <Choose>
        {label}
        <input
          type="file"
          accept={accept}
          onChange={(event) => void send(event.target.files?.[0])}
        />
      </Choose>
      <span role="status">{state.busy ? `Uploading ${state.busy}` : ""}</span>
      {state.wrong ? <Strip tone="wrong">{state.wrong}</Strip> : null}
    </>
  );
}
