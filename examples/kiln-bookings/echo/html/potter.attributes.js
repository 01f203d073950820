// Made by echo-rule from rules/potter.rules.ts. Change the rules, not this file: it is made again.
// Digest: sha256-23166081ed6fafca35b8f04779757f563ee28a320e9b04ab395b578327aef7aa

/** The native control of each field: element, attributes, options. */
export const controls = {
  "handle": {
    "element": "input",
    "attributes": {
      "type": "text",
      "required": true,
      "pattern": "\\s*(?=[^\\s\\x00\\uFFFD](?:[^\\x00\\uFFFD]{0,18}[^\\s\\x00\\uFFFD])?\\s*$)[a-z][0-9a-z]*(?:\\x2D[0-9a-z]+)*(?<!\\s)\\s*",
      "title": "Such as a-2. At most 20 characters"
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
  "email": {
    "element": "input",
    "attributes": {
      "type": "text",
      "inputmode": "email",
      "pattern": "\\s*(?:(?=[^\\s\\x00\\uFFFD](?:[^\\x00\\uFFFD]{0,252}[^\\s\\x00\\uFFFD])?\\s*$)[\\x21\\x23-\\x27\\x2A-\\x2B\\x2D-9\\x3D\\x3FA-Z\\x5E-\\x7E]{1,64}\\x40[0-9A-Za-z](?:[\\x2D0-9A-Za-z]{0,61}[0-9A-Za-z])?(?:\\x2E[0-9A-Za-z](?:[\\x2D0-9A-Za-z]{0,61}[0-9A-Za-z])?)*(?<!\\s)\\s*)?"
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
