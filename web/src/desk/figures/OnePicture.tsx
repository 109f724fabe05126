/** The picture that fits the form of the answers. */
import { BinsPicture } from "./BinsPicture";
import type { Gathered, Picture } from "./data";
import { InnerPictures } from "./InnerPictures";
import { SinglePicture } from "./SinglePicture";

function GatheredPicture({ picture, name }: { picture: Gathered; name: string }) {
  return (
    <>
      {picture.many ? <BinsPicture picture={picture.many} name={`${name}: how many`} /> : null}
      <InnerPictures inner={picture.inner} />
    </>
  );
}

export function OnePicture({ picture, name }: { picture: Picture; name: string }) {
  if (picture.kind === "gathered") return <GatheredPicture picture={picture} name={name} />;
  return <SinglePicture picture={picture} name={name} />;
}
