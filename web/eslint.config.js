/** Lint rules, and who may import whom: desk, answer -> items, client -> ui. */
import importX, { createNodeResolver } from "eslint-plugin-import-x";
import jsxA11y from "eslint-plugin-jsx-a11y";
import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

const zone = (target, from, message) => ({
  target: `./src/${target}`,
  from: `./src/${from}`,
  message,
});

/** The rooms of the desk, from the bottom up: none imports one that stands after it. */
const ROOMS = [
  ["entering"],
  ["shell"],
  ["condition"],
  ["views", "statuses"],
  ["office", "people", "account", "trail", "tables"],
  ["contacts"],
  ["draft"],
  ["kinds"],
  ["reading"],
  ["trying"],
  ["bank"],
  ["proof"],
  ["dispatch"],
  ["bench"],
  ["translate"],
  ["sheets"],
  ["script", "map", "entries", "gate", "links", "visitors"],
];

const above = (at, room) => [
  ...ROOMS.slice(at + 1).flat(),
  ...ROOMS[at].filter((one) => one !== room),
];

const walls = ROOMS.flatMap((rooms, at) =>
  rooms.flatMap((room) =>
    above(at, room).map((other) =>
      zone(`desk/${room}`, `desk/${other}`, `${room} is below or beside ${other}`),
    ),
  ),
);

export default tseslint.config(
  { ignores: ["src/client/schema.d.ts"] },
  tseslint.configs.strictTypeChecked,
  jsxA11y.flatConfigs.recommended,
  hooks.configs.flat.recommended,
  {
    files: ["src/**/*.{ts,tsx}", "tests/**/*.ts"],
    plugins: { "import-x": importX },
    languageOptions: { parserOptions: { projectService: true } },
    settings: {
      "import-x/resolver-next": [createNodeResolver({ extensions: [".ts", ".tsx", ".js"] })],
      "import-x/parsers": { "@typescript-eslint/parser": [".ts", ".tsx"] },
    },
    rules: {
      "@typescript-eslint/restrict-template-expressions": ["error", { allowNumber: true }],
      "@typescript-eslint/no-confusing-void-expression": ["error", { ignoreArrowShorthand: true }],
      "@typescript-eslint/only-throw-error": "off",
      "@typescript-eslint/switch-exhaustiveness-check": [
        "error",
        { considerDefaultExhaustiveForUnions: true },
      ],
      "jsx-a11y/no-autofocus": "off",
      "jsx-a11y/no-noninteractive-tabindex": "off",
      "import-x/no-cycle": "error",
      "import-x/no-restricted-paths": [
        "error",
        {
          zones: [
            zone("ui", "items", "the kit knows no items"),
            zone("ui", "client", "the kit makes no calls"),
            zone("ui", "desk", "the kit is below the desk"),
            zone("ui", "answer", "the kit is below the answering page"),
            zone("items", "desk", "items are below the desk"),
            zone("items", "answer", "items are below the answering page"),
            zone("client", "desk", "the client is below the desk"),
            zone("client", "answer", "the client is below the answering page"),
            zone("desk", "answer", "two bundles"),
            zone("answer", "desk", "two bundles"),
            ...walls,
          ],
        },
      ],
    },
  },
  {
    files: ["tests/**/*.ts"],
    rules: { "@typescript-eslint/no-non-null-assertion": "off" },
  },
);
