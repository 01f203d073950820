// Made by echo-rule from rules/firing.rules.ts. Change the rules, not this file: it is made again.
// Digest: sha256-8647a1bc1bc993bc53de1c8dd4d8f6263e09a377b621456a203a985b974fe339

/** The native control of each field: element, attributes, options. */
export const controls = {
  "tag": {
    "element": "input",
    "attributes": {
      "type": "text",
      "required": true,
      "pattern": "\\s*[A-Z]{2}\\x2D[0-9]{4}\\s*",
      "title": "Such as AB-3456"
    }
  },
  "kiln": {
    "element": "input",
    "attributes": {
      "type": "text",
      "required": true,
      "pattern": "\\s*K[0-9]{2}\\s*",
      "title": "Such as K12"
    }
  },
  "potter": {
    "element": "input",
    "attributes": {
      "type": "text",
      "required": true,
      "pattern": "\\s*(?=[^\\s\\x00\\uFFFD](?:[^\\x00\\uFFFD]{0,18}[^\\s\\x00\\uFFFD])?\\s*$)[a-z][0-9a-z]*(?:\\x2D[0-9a-z]+)*(?<!\\s)\\s*",
      "title": "Such as a-2. At most 20 characters"
    }
  },
  "title": {
    "element": "input",
    "attributes": {
      "type": "text",
      "required": true,
      "pattern": "\\s*[^\\s\\x00\\uFFFD][^\\x00\\uFFFD]{1,58}[^\\s\\x00\\uFFFD]\\s*",
      "title": "3 to 60 characters"
    }
  },
  "pieces": {
    "element": "input",
    "attributes": {
      "type": "text",
      "inputmode": "numeric",
      "required": true,
      "pattern": "[1-9]|[1-3][0-9]|40",
      "title": "A whole number from 1 to 40"
    }
  },
  "peak": {
    "element": "input",
    "attributes": {
      "type": "text",
      "inputmode": "numeric",
      "required": true,
      "pattern": "[6-9][0-9]{2}|1[0-2][0-9]{2}|13[0-1][0-9]|1320",
      "title": "A whole number from 600 to 1320"
    }
  },
  "glaze": {
    "element": "select",
    "attributes": {
      "required": true
    },
    "options": [
      [
        "",
        ""
      ],
      [
        "none",
        "No glaze"
      ],
      [
        "celadon",
        "Celadon"
      ],
      [
        "tenmoku",
        "Tenmoku"
      ],
      [
        "lustre",
        "Lustre"
      ]
    ]
  },
  "vented": {
    "element": "checkbox",
    "attributes": {
      "type": "checkbox",
      "value": "true"
    }
  },
  "fee": {
    "element": "input",
    "attributes": {
      "type": "text",
      "inputmode": "decimal",
      "pattern": "-?(?:0|[1-9][0-9]{0,2})(?:\\.[0-9]{1,2}0*)?",
      "title": "A number from 0 to 500"
    }
  },
  "loadOn": {
    "element": "input",
    "attributes": {
      "type": "date",
      "required": true,
      "min": "0001-01-01",
      "max": "9999-12-31"
    }
  },
  "collectOn": {
    "element": "input",
    "attributes": {
      "type": "date",
      "min": "0001-01-01",
      "max": "9999-12-31"
    }
  },
  "shelf[bay]": {
    "element": "input",
    "attributes": {
      "type": "text",
      "required": true,
      "pattern": "\\s*[A-F][0-9]?\\s*",
      "title": "Such as A1"
    }
  },
  "shelf[level]": {
    "element": "input",
    "attributes": {
      "type": "text",
      "inputmode": "numeric",
      "required": true,
      "pattern": "[1-6]",
      "title": "A whole number from 1 to 6"
    }
  },
  "notes": {
    "element": "textarea",
    "attributes": {
      "title": "At most 500 characters"
    }
  }
};
