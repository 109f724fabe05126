/** Uploading a picture, a video or captions of one's own. */
import { useState } from "react";
import styled from "styled-components";

import { asBytes, client, ApiError, got, type Schema } from "../../client/client";
import { Field } from "../../ui/Field";
import { Strip } from "../../ui/Strip";
import { say, told, type Item } from "../document";
import type { Setting } from "./setting";

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

async function upload(id: string, file: File): Promise<Medium> {
  return got(
    client.POST("/api/questionnaires/{id}/media", {
      params: { path: { id }, query: { name: file.name } },
      ...asBytes(file),
    }),
  );
}

interface UploadProps {
  id: string;
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

interface MediaProps extends Setting {
  /** The questionnaire. */
  id: string;
  item: Extract<Item, { kind: "picture" | "video" }>;
}

export function MediaFields({ id, item, doc, set }: MediaProps) {
  if (item.kind === "picture") {
    return (
      <>
        {item.media ? <Seen src={`/media/${item.media}`} alt={say(doc, item.text)} /> : null}
        <Upload
          id={id}
          label={item.media ? "Another picture" : "Picture"}
          accept="image/jpeg,image/png,image/gif,image/webp"
          onUploaded={({ id: media, width, height }) => set({ media, width, height })}
        />
        <Field
          label="Words below it"
          value={say(doc, item.caption)}
          onChange={(words) => set({ caption: told(doc, item.caption, words) })}
        />
      </>
    );
  }
  return (
    <>
      <Upload
        id={id}
        label={item.media ? "Another video" : "Video"}
        accept="video/mp4,video/webm"
        onUploaded={({ id: media }) => set({ media })}
      />
      <Upload
        id={id}
        label={item.captions ? "Other captions (WebVTT)" : "Captions (WebVTT)"}
        accept=".vtt,text/vtt"
        onUploaded={({ id: captions }) => set({ captions })}
      />
      <Field
        label="What is said in it"
        lines={4}
        value={say(doc, item.spoken)}
        onChange={(words) => set({ spoken: told(doc, item.spoken, words) })}
      />
    </>
  );
}
