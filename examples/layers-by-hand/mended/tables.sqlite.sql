CREATE TABLE kilns (code TEXT PRIMARY KEY, name TEXT NOT NULL, hottest INTEGER NOT NULL) STRICT;
CREATE TABLE potters (
  handle TEXT PRIMARY KEY, name TEXT NOT NULL, phone TEXT UNIQUE, email TEXT UNIQUE, member_since TEXT NOT NULL,
  inducted INTEGER NOT NULL
) STRICT;
CREATE TABLE firings (
  tag TEXT NOT NULL PRIMARY KEY CHECK (tag GLOB '[A-Z][A-Z]-[0-9][0-9][0-9][0-9]' AND instr(tag, char(0)) = 0),
  kiln TEXT NOT NULL REFERENCES kilns CHECK (kiln GLOB 'K[0-9][0-9]' AND instr(kiln, char(0)) = 0),
  potter TEXT NOT NULL REFERENCES potters,
  title TEXT NOT NULL
    CHECK (length(title) BETWEEN 3 AND 60)
    CHECK (instr(title, char(0)) = 0 AND instr(title, char(10)) = 0 AND instr(title, char(13)) = 0
      AND title NOT GLOB '*' || char(65533) || '*')
    CHECK (title = trim(title, char(9, 10, 11, 12, 13, 32, 160, 5760, 8192, 8193, 8194, 8195, 8196, 8197, 8198, 8199,
      8200, 8201, 8202, 8232, 8233, 8239, 8287, 12288, 65279))),
  pieces INTEGER NOT NULL CHECK (pieces BETWEEN 1 AND 40),
  peak INTEGER NOT NULL CHECK (peak BETWEEN 600 AND 1320),
  glaze TEXT NOT NULL CHECK (glaze IN ('none', 'celadon', 'tenmoku', 'lustre')),
  vented INTEGER NOT NULL CHECK (vented IN (0, 1)),
  load_on TEXT NOT NULL CHECK (load_on GLOB '[0-9][0-9][0-9][0-9]-[0-9][0-9]-[0-9][0-9]' AND load_on > '0000-12-31'
    AND date(load_on, '+0 days') IS load_on AND instr(load_on, char(0)) = 0),
  collect_on TEXT CHECK (collect_on GLOB '[0-9][0-9][0-9][0-9]-[0-9][0-9]-[0-9][0-9]' AND collect_on > '0000-12-31'
    AND date(collect_on, '+0 days') IS collect_on AND instr(collect_on, char(0)) = 0),
  fee REAL CHECK (fee BETWEEN 0 AND 500 AND fee = round(fee, 2)),
  shelf_bay TEXT
    CHECK ((shelf_bay GLOB '[A-F]' OR shelf_bay GLOB '[A-F][0-9]') AND instr(shelf_bay, char(0)) = 0),
  shelf_level INTEGER CHECK (shelf_level BETWEEN 1 AND 6),
  notes TEXT
    CHECK (length(notes) <= 500)
    CHECK (notes <> '' AND instr(notes, char(0)) = 0 AND instr(notes, char(13)) = 0
      AND notes NOT GLOB '*' || char(65533) || '*')
    CHECK (notes = trim(notes, char(9, 10, 11, 12, 13, 32, 160, 5760, 8192, 8193, 8194, 8195, 8196, 8197, 8198, 8199,
      8200, 8201, 8202, 8232, 8233, 8239, 8287, 12288, 65279))),
  CHECK (collect_on > load_on),
  CHECK (glaze <> 'lustre' OR vented),
  CHECK (glaze <> 'celadon' OR peak >= 1200),
  CHECK ((shelf_bay IS NULL) = (shelf_level IS NULL))
) STRICT;
CREATE UNIQUE INDEX one_firing_per_day ON firings (kiln, load_on);
CREATE TABLE firings_helpers (
  firing_tag TEXT NOT NULL REFERENCES firings ON DELETE CASCADE,
  position INTEGER NOT NULL CHECK (position BETWEEN 1 AND 4),
  item TEXT NOT NULL
    CHECK (length(item) <= 30)
    CHECK (item <> '' AND instr(item, char(0)) = 0 AND instr(item, char(10)) = 0 AND instr(item, char(13)) = 0
      AND item NOT GLOB '*' || char(65533) || '*')
    CHECK (item = trim(item, char(9, 10, 11, 12, 13, 32, 160, 5760, 8192, 8193, 8194, 8195, 8196, 8197, 8198, 8199,
      8200, 8201, 8202, 8232, 8233, 8239, 8287, 12288, 65279))),
  PRIMARY KEY (firing_tag, position),
  UNIQUE (firing_tag, item)
) STRICT;
