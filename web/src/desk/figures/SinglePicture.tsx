/** The picture of a question that has nothing inside. */
import { Quiet } from "../../ui/text";
import { BarsPicture } from "./BarsPicture";
import { BinsPicture } from "./BinsPicture";
import type { Single } from "./data";
import { RanksPicture, TextsPicture } from "./OtherPictures";
import { many } from "./words";

export function SinglePicture({ picture, name }: { picture: Single; name: string }) {
  switch (picture.kind) {
    case "bars":
      return <BarsPicture picture={picture} name={name} />;
    case "bins":
      return <BinsPicture picture={picture} name={name} />;
    case "ranks":
      return <RanksPicture picture={picture} name={name} />;
    case "texts":
      return <TextsPicture picture={picture} />;
    case "files":
      return <Quiet>{picture.files === 1 ? "1 file" : `${many(picture.files)} files`}</Quiet>;
    case "plain":
      return null;
  }
}
