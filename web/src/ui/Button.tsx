/** The button, in three weights. */
import { Button as AriaButton, type ButtonProps as AriaProps } from "react-aria-components/Button";
import { useState } from "react";
import styled, { css } from "styled-components";

type Weight = "main" | "plain" | "word";

export interface ButtonProps extends AriaProps {
  /** `main` is what the screen is for, `word` stands in a sentence. */
  weight?: Weight;
}

const weights = {
  main: css`
    background: var(--accent);
    border-color: var(--accent);
    color: var(--on-accent);
    &[data-hovered] {
      background: var(--accent-hover);
    }
  `,
  plain: css`
    background: var(--paper);
    border-color: var(--line-2);
    &[data-hovered] {
      border-color: var(--ink-3);
    }
  `,
  word: css`
    background: none;
    border-color: transparent;
    color: var(--accent);
    padding: 3px 4px;
    &[data-hovered] {
      text-decoration: underline;
    }
  `,
};

const Styled = styled(AriaButton)<{ $weight: Weight }>`
  font: 600 14px var(--body);
  min-height: 28px;
  border: 1px solid;
  border-radius: 4px;
  padding: 5px 13px;
  display: inline-flex;
  gap: 7px;
  align-items: center;
  justify-content: center;
  cursor: pointer;
  ${({ $weight }) => weights[$weight]}
  &[data-disabled],
  &[aria-disabled="true"] {
    opacity: 0.55;
    cursor: default;
  }
  &[data-focus-visible] {
    outline: 2.5px solid var(--flax);
    outline-offset: 2px;
  }
`;

/** A button that is disabled while it has the focus keeps it until it is left: what the keyboard
 * stands on does not go away under it. */
export function Button({ weight = "plain", isDisabled = false, ...props }: ButtonProps) {
  const [focused, setFocused] = useState(false);
  const { onFocusChange } = props;
  const held = isDisabled && focused;
  return (
    <Styled
      {...props}
      {...(held ? { onPress: NOTHING, type: "button", "aria-disabled": true } : { isDisabled })}
      onFocusChange={(on) => {
        setFocused(on);
        onFocusChange?.(on);
      }}
      $weight={weight}
    />
  );
}

const NOTHING = () => undefined;
