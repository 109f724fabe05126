/** Uploading a picture, a video or captions of one's own. */

import { Field } from "../../ui/Field";
import { say, told, type Item } from "../document";
import { Seen, Upload } from "../shell/Upload";
import type { Setting } from "./setting";

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
