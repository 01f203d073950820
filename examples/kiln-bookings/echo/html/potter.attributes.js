// Made by echo-rule from rules/potter.rules.ts. Change the rules, not this file: it is made again.
// Digest: sha256-00d0eefad7e47055f49a459f499dfb5185c90e817fdbe27c91a3fa96cf363f8a

/** The native control of each field: element, attributes, options. */
export const controls = {
  "handle": {
    "element": "input",
    "attributes": {
      "type": "text",
      "required": true,
      "pattern": "\\s*(?=[^\\s\\x00\\uFFFD](?:[^\\x00\\uFFFD]{0,18}[^\\s\\x00\\uFFFD])?\\s*$)[a-z][0-9a-z]*(?:\\x2D[0-9a-z]+)*(?<!\\s)\\s*",
      "title": "Such as a-2, at most 20 characters"
    }
  },
  "name": {
    "element": "input",
    "attributes": {
      "type": "text",
      "required": true,
      "pattern": "\\s*[^\\s\\x00\\uFFFD][^\\x00\\uFFFD]{0,58}[^\\s\\x00\\uFFFD]\\s*",
      "title": "2 to 60 characters"
    }
  },
  "phone": {
    "element": "input",
    "attributes": {
      "type": "text",
      "pattern": "\\s*(?:\\x2B[0-9]{1,3}(?:\\x20[0-9]{2,5}){2,4}\\s*)?",
      "title": "Such as +1 34567 90"
    }
  },
  "memberSince": {
    "element": "input",
    "attributes": {
      "type": "date",
      "required": true,
      "min": "2015-01-01",
      "max": "9999-12-31"
    }
  },
  "inducted": {
    "element": "checkbox",
    "attributes": {
      "type": "checkbox",
      "value": "true"
    }
  }
};
