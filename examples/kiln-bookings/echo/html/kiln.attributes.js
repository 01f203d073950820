// Made by echo-rule from rules/kiln.rules.ts. Change the rules, not this file: it is made again.
// Digest: sha256-8fb106d485dd71bbe9eb6668a72fff9af9b0887f61c81f78bc8c4d4e86d86366

/** The native control of each field: element, attributes, options. */
export const controls = {
  "code": {
    "element": "input",
    "attributes": {
      "type": "text",
      "required": true,
      "pattern": "\\s*K[0-9]{2}\\s*",
      "title": "Such as K12"
    }
  },
  "name": {
    "element": "input",
    "attributes": {
      "type": "text",
      "required": true,
      "pattern": "\\s*[^\\s\\x00\\uFFFD][^\\x00\\uFFFD]{0,38}[^\\s\\x00\\uFFFD]\\s*",
      "title": "2 to 40 characters"
    }
  },
  "hottest": {
    "element": "input",
    "attributes": {
      "type": "text",
      "inputmode": "numeric",
      "required": true,
      "pattern": "9[0-9]{2}|1[0-3][0-9]{2}|1400",
      "title": "A whole number from 900 to 1400"
    }
  }
};
