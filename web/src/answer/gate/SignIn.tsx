/** Where visitors may sign in, and as whom they did. */
import { createContext, useContext } from "react";
import styled from "styled-components";

import { useSay } from "../../items/words";
import { Button } from "../../ui/Button";

interface Way {
  name: string;
  href: string;
}

export interface Ways {
  /** The providers that one may sign in at. */
  offered: readonly Way[];
  /** As whom one is signed in, and where that ends. */
  signedIn: Way | null;
}

export const SignInContext = createContext<Ways>({ offered: [], signedIn: null });

const Links = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 10px 16px;
  align-items: center;
  margin-top: 12px;
  p {
    flex-basis: 100%;
  }
  a {
    display: inline-flex;
    align-items: center;
    min-height: 44px;
    padding: 0 18px;
    border: 1px solid var(--accent);
    border-radius: 4px;
    font-weight: 600;
    text-decoration: none;
  }
  a:hover {
    text-decoration: underline;
  }
  form {
    display: contents;
  }
  @media print {
    display: none;
  }
`;

/** Links to the providers. They leave a frame: no provider lets itself be shown in one. */
function SignInLinks() {
  const say = useSay();
  const { offered } = useContext(SignInContext);
  return offered.map(({ name, href }) => (
    <a key={href} href={href} target="_top">
      {say("sign_in_with", { name })}
    </a>
  ));
}

/** On the first page: who one is, or where one may sign in. */
export function SignIn() {
  const say = useSay();
  const { offered, signedIn } = useContext(SignInContext);
  if (signedIn) {
    const { name, href } = signedIn;
    return (
      <Links>
        <form method="post" action={href}>
          <span>{name ? say("signed_in", { name }) : say("signed_in_plainly")}</span>
          <Button type="submit" weight="word">
            {say("sign_out")}
          </Button>
        </form>
      </Links>
    );
  }
  if (!offered.length) return null;
  return (
    <Links>
      <p>{say("sign_in_offer")}</p>
      <SignInLinks />
    </Links>
  );
}

/** Instead of a page: nobody answers here who did not sign in. */
export function SignInNeeded() {
  return (
    <Links>
      <SignInLinks />
    </Links>
  );
}

/** Where signing in did not work: once more from the beginning. */
export function BeginAgain({ href }: { href: string }) {
  const say = useSay();
  return (
    <Links>
      <a href={href}>{say("begin_again")}</a>
    </Links>
  );
}
