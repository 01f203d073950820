-- Made by echo-rule from rules/kiln.rules.ts, rules/potter.rules.ts, rules/firing.rules.ts. Change the rules, not this file: it is made again.
-- Digest: sha256-2dee1b16b0e88fd9ab0114fb170df359cba6c3e09c7ba2881177805ebd9ee836

CREATE TABLE kilns (
  code TEXT NOT NULL,
  name TEXT NOT NULL,
  hottest INT NOT NULL,
  CONSTRAINT kiln_code_unique PRIMARY KEY (code),
  CONSTRAINT kiln_code_type CHECK (instr(code, char(0)) = 0 AND code NOT GLOB ('*' || char(65533) || '*')),
  CONSTRAINT kiln_code_canonical CHECK (code = trim(code, char(9, 10, 11, 12, 13, 32, 160, 5760, 8192, 8193, 8194, 8195, 8196, 8197, 8198, 8199, 8200, 8201, 8202, 8232, 8233, 8239, 8287, 12288, 65279)) AND code <> ''),
  CONSTRAINT kiln_code_lines CHECK (code NOT GLOB ('*[' || char(10, 13) || ']*')),
  CONSTRAINT kiln_code_pattern CHECK (code GLOB 'K[0-9][0-9]'),
  CONSTRAINT kiln_name_type CHECK (instr(name, char(0)) = 0 AND name NOT GLOB ('*' || char(65533) || '*')),
  CONSTRAINT kiln_name_canonical CHECK (name = trim(name, char(9, 10, 11, 12, 13, 32, 160, 5760, 8192, 8193, 8194, 8195, 8196, 8197, 8198, 8199, 8200, 8201, 8202, 8232, 8233, 8239, 8287, 12288, 65279)) AND name <> ''),
  CONSTRAINT kiln_name_lines CHECK (name NOT GLOB ('*[' || char(10, 13) || ']*')),
  CONSTRAINT kiln_name_min_length CHECK (length(name) >= 2),
  CONSTRAINT kiln_name_max_length CHECK (length(name) <= 40),
  CONSTRAINT kiln_hottest_min CHECK (hottest >= 900),
  CONSTRAINT kiln_hottest_max CHECK (hottest <= 1400)
) STRICT;

CREATE TABLE potters (
  handle TEXT NOT NULL,
  name TEXT NOT NULL,
  phone TEXT,
  member_since TEXT NOT NULL,
  inducted INTEGER NOT NULL,
  CONSTRAINT potter_handle_unique PRIMARY KEY (handle),
  CONSTRAINT potter_handle_type CHECK (instr(handle, char(0)) = 0 AND handle NOT GLOB ('*' || char(65533) || '*')),
  CONSTRAINT potter_handle_canonical CHECK (handle = trim(handle, char(9, 10, 11, 12, 13, 32, 160, 5760, 8192, 8193, 8194, 8195, 8196, 8197, 8198, 8199, 8200, 8201, 8202, 8232, 8233, 8239, 8287, 12288, 65279)) AND handle <> ''),
  CONSTRAINT potter_handle_lines CHECK (handle NOT GLOB ('*[' || char(10, 13) || ']*')),
  CONSTRAINT potter_handle_max_length CHECK (length(handle) <= 20),
  CONSTRAINT potter_name_type CHECK (instr(name, char(0)) = 0 AND name NOT GLOB ('*' || char(65533) || '*')),
  CONSTRAINT potter_name_canonical CHECK (name = trim(name, char(9, 10, 11, 12, 13, 32, 160, 5760, 8192, 8193, 8194, 8195, 8196, 8197, 8198, 8199, 8200, 8201, 8202, 8232, 8233, 8239, 8287, 12288, 65279)) AND name <> ''),
  CONSTRAINT potter_name_lines CHECK (name NOT GLOB ('*[' || char(10, 13) || ']*')),
  CONSTRAINT potter_name_min_length CHECK (length(name) >= 2),
  CONSTRAINT potter_name_max_length CHECK (length(name) <= 60),
  CONSTRAINT potter_phone_type CHECK (instr(phone, char(0)) = 0 AND phone NOT GLOB ('*' || char(65533) || '*')),
  CONSTRAINT potter_phone_canonical CHECK (phone = trim(phone, char(9, 10, 11, 12, 13, 32, 160, 5760, 8192, 8193, 8194, 8195, 8196, 8197, 8198, 8199, 8200, 8201, 8202, 8232, 8233, 8239, 8287, 12288, 65279)) AND phone <> ''),
  CONSTRAINT potter_phone_lines CHECK (phone NOT GLOB ('*[' || char(10, 13) || ']*')),
  CONSTRAINT potter_member_since_type CHECK (member_since GLOB '[0-9][0-9][0-9][0-9]-[0-9][0-9]-[0-9][0-9]' AND date(member_since, '+0 days') IS member_since AND member_since >= '0001-01-01' AND instr(member_since, char(0)) = 0),
  CONSTRAINT potter_member_since_min CHECK (member_since >= '2015-01-01'),
  CONSTRAINT potter_inducted_type CHECK (inducted IN (0, 1)),
  CONSTRAINT potter_phone_taken_once UNIQUE (phone)
) STRICT;

CREATE TRIGGER potter_handle_pattern_insert BEFORE INSERT ON potters
WHEN NEW.handle IS NOT NULL AND NOT EXISTS (
  WITH RECURSIVE
    moves (state, low, high, next) AS (VALUES (0, 97, 122, 1), (1, 45, 45, 2), (1, 48, 57, 1), (1, 97, 122, 1), (2, 48, 57, 1), (2, 97, 122, 1)),
    walk (position, state) AS (
      SELECT 1, 0
      UNION ALL
      SELECT position + 1, moves.next FROM walk JOIN moves ON moves.state = walk.state
        AND unicode(substr(NEW.handle, position, 1)) BETWEEN moves.low AND moves.high
      WHERE position <= length(NEW.handle)
    )
  SELECT 1 FROM walk WHERE position = length(NEW.handle) + 1 AND state IN (1)
)
BEGIN
  SELECT RAISE(ABORT, 'potter_handle_pattern');
END;

CREATE TRIGGER potter_handle_pattern_update BEFORE UPDATE OF handle ON potters
WHEN NEW.handle IS NOT NULL AND NOT EXISTS (
  WITH RECURSIVE
    moves (state, low, high, next) AS (VALUES (0, 97, 122, 1), (1, 45, 45, 2), (1, 48, 57, 1), (1, 97, 122, 1), (2, 48, 57, 1), (2, 97, 122, 1)),
    walk (position, state) AS (
      SELECT 1, 0
      UNION ALL
      SELECT position + 1, moves.next FROM walk JOIN moves ON moves.state = walk.state
        AND unicode(substr(NEW.handle, position, 1)) BETWEEN moves.low AND moves.high
      WHERE position <= length(NEW.handle)
    )
  SELECT 1 FROM walk WHERE position = length(NEW.handle) + 1 AND state IN (1)
)
BEGIN
  SELECT RAISE(ABORT, 'potter_handle_pattern');
END;

CREATE TRIGGER potter_phone_pattern_insert BEFORE INSERT ON potters
WHEN NEW.phone IS NOT NULL AND NOT EXISTS (
  WITH RECURSIVE
    moves (state, low, high, next) AS (VALUES (0, 43, 43, 1), (1, 48, 57, 2), (2, 32, 32, 3), (2, 48, 57, 4), (3, 48, 57, 5), (4, 32, 32, 3), (4, 48, 57, 6), (5, 48, 57, 7), (6, 32, 32, 3), (7, 32, 32, 8), (7, 48, 57, 9), (8, 48, 57, 10), (9, 32, 32, 8), (9, 48, 57, 11), (10, 48, 57, 12), (11, 32, 32, 8), (11, 48, 57, 13), (12, 32, 32, 14), (12, 48, 57, 15), (13, 32, 32, 8), (14, 48, 57, 16), (15, 32, 32, 14), (15, 48, 57, 17), (16, 48, 57, 18), (17, 32, 32, 14), (17, 48, 57, 19), (18, 32, 32, 20), (18, 48, 57, 21), (19, 32, 32, 14), (20, 48, 57, 22), (21, 32, 32, 20), (21, 48, 57, 23), (22, 48, 57, 24), (23, 32, 32, 20), (23, 48, 57, 25), (24, 48, 57, 26), (25, 32, 32, 20), (26, 48, 57, 27), (27, 48, 57, 28)),
    walk (position, state) AS (
      SELECT 1, 0
      UNION ALL
      SELECT position + 1, moves.next FROM walk JOIN moves ON moves.state = walk.state
        AND unicode(substr(NEW.phone, position, 1)) BETWEEN moves.low AND moves.high
      WHERE position <= length(NEW.phone)
    )
  SELECT 1 FROM walk WHERE position = length(NEW.phone) + 1 AND state IN (12, 15, 17, 18, 19, 21, 23, 24, 25, 26, 27, 28)
)
BEGIN
  SELECT RAISE(ABORT, 'potter_phone_pattern');
END;

CREATE TRIGGER potter_phone_pattern_update BEFORE UPDATE OF phone ON potters
WHEN NEW.phone IS NOT NULL AND NOT EXISTS (
  WITH RECURSIVE
    moves (state, low, high, next) AS (VALUES (0, 43, 43, 1), (1, 48, 57, 2), (2, 32, 32, 3), (2, 48, 57, 4), (3, 48, 57, 5), (4, 32, 32, 3), (4, 48, 57, 6), (5, 48, 57, 7), (6, 32, 32, 3), (7, 32, 32, 8), (7, 48, 57, 9), (8, 48, 57, 10), (9, 32, 32, 8), (9, 48, 57, 11), (10, 48, 57, 12), (11, 32, 32, 8), (11, 48, 57, 13), (12, 32, 32, 14), (12, 48, 57, 15), (13, 32, 32, 8), (14, 48, 57, 16), (15, 32, 32, 14), (15, 48, 57, 17), (16, 48, 57, 18), (17, 32, 32, 14), (17, 48, 57, 19), (18, 32, 32, 20), (18, 48, 57, 21), (19, 32, 32, 14), (20, 48, 57, 22), (21, 32, 32, 20), (21, 48, 57, 23), (22, 48, 57, 24), (23, 32, 32, 20), (23, 48, 57, 25), (24, 48, 57, 26), (25, 32, 32, 20), (26, 48, 57, 27), (27, 48, 57, 28)),
    walk (position, state) AS (
      SELECT 1, 0
      UNION ALL
      SELECT position + 1, moves.next FROM walk JOIN moves ON moves.state = walk.state
        AND unicode(substr(NEW.phone, position, 1)) BETWEEN moves.low AND moves.high
      WHERE position <= length(NEW.phone)
    )
  SELECT 1 FROM walk WHERE position = length(NEW.phone) + 1 AND state IN (12, 15, 17, 18, 19, 21, 23, 24, 25, 26, 27, 28)
)
BEGIN
  SELECT RAISE(ABORT, 'potter_phone_pattern');
END;

CREATE TABLE firings (
  tag TEXT NOT NULL,
  kiln TEXT NOT NULL,
  potter TEXT NOT NULL,
  title TEXT NOT NULL,
  pieces INT NOT NULL,
  peak INT NOT NULL,
  glaze TEXT NOT NULL,
  vented INTEGER NOT NULL,
  load_on TEXT NOT NULL,
  collect_on TEXT,
  notes TEXT,
  CONSTRAINT firing_tag_unique PRIMARY KEY (tag),
  CONSTRAINT firing_tag_type CHECK (instr(tag, char(0)) = 0 AND tag NOT GLOB ('*' || char(65533) || '*')),
  CONSTRAINT firing_tag_canonical CHECK (tag = trim(tag, char(9, 10, 11, 12, 13, 32, 160, 5760, 8192, 8193, 8194, 8195, 8196, 8197, 8198, 8199, 8200, 8201, 8202, 8232, 8233, 8239, 8287, 12288, 65279)) AND tag <> ''),
  CONSTRAINT firing_tag_lines CHECK (tag NOT GLOB ('*[' || char(10, 13) || ']*')),
  CONSTRAINT firing_tag_pattern CHECK (tag GLOB '[A-Z][A-Z]-[0-9][0-9][0-9][0-9]'),
  CONSTRAINT firing_kiln_type CHECK (instr(kiln, char(0)) = 0 AND kiln NOT GLOB ('*' || char(65533) || '*')),
  CONSTRAINT firing_kiln_canonical CHECK (kiln = trim(kiln, char(9, 10, 11, 12, 13, 32, 160, 5760, 8192, 8193, 8194, 8195, 8196, 8197, 8198, 8199, 8200, 8201, 8202, 8232, 8233, 8239, 8287, 12288, 65279)) AND kiln <> ''),
  CONSTRAINT firing_kiln_lines CHECK (kiln NOT GLOB ('*[' || char(10, 13) || ']*')),
  CONSTRAINT firing_kiln_pattern CHECK (kiln GLOB 'K[0-9][0-9]'),
  CONSTRAINT firing_potter_type CHECK (instr(potter, char(0)) = 0 AND potter NOT GLOB ('*' || char(65533) || '*')),
  CONSTRAINT firing_potter_canonical CHECK (potter = trim(potter, char(9, 10, 11, 12, 13, 32, 160, 5760, 8192, 8193, 8194, 8195, 8196, 8197, 8198, 8199, 8200, 8201, 8202, 8232, 8233, 8239, 8287, 12288, 65279)) AND potter <> ''),
  CONSTRAINT firing_potter_lines CHECK (potter NOT GLOB ('*[' || char(10, 13) || ']*')),
  CONSTRAINT firing_potter_max_length CHECK (length(potter) <= 20),
  CONSTRAINT firing_title_type CHECK (instr(title, char(0)) = 0 AND title NOT GLOB ('*' || char(65533) || '*')),
  CONSTRAINT firing_title_canonical CHECK (title = trim(title, char(9, 10, 11, 12, 13, 32, 160, 5760, 8192, 8193, 8194, 8195, 8196, 8197, 8198, 8199, 8200, 8201, 8202, 8232, 8233, 8239, 8287, 12288, 65279)) AND title <> ''),
  CONSTRAINT firing_title_lines CHECK (title NOT GLOB ('*[' || char(10, 13) || ']*')),
  CONSTRAINT firing_title_min_length CHECK (length(title) >= 3),
  CONSTRAINT firing_title_max_length CHECK (length(title) <= 60),
  CONSTRAINT firing_pieces_min CHECK (pieces >= 1),
  CONSTRAINT firing_pieces_max CHECK (pieces <= 40),
  CONSTRAINT firing_peak_min CHECK (peak >= 600),
  CONSTRAINT firing_peak_max CHECK (peak <= 1320),
  CONSTRAINT firing_glaze_enumeration CHECK (glaze IN ('none', 'celadon', 'tenmoku', 'lustre')),
  CONSTRAINT firing_vented_type CHECK (vented IN (0, 1)),
  CONSTRAINT firing_load_on_type CHECK (load_on GLOB '[0-9][0-9][0-9][0-9]-[0-9][0-9]-[0-9][0-9]' AND date(load_on, '+0 days') IS load_on AND load_on >= '0001-01-01' AND instr(load_on, char(0)) = 0),
  CONSTRAINT firing_collect_on_type CHECK (collect_on GLOB '[0-9][0-9][0-9][0-9]-[0-9][0-9]-[0-9][0-9]' AND date(collect_on, '+0 days') IS collect_on AND collect_on >= '0001-01-01' AND instr(collect_on, char(0)) = 0),
  CONSTRAINT firing_notes_type CHECK (instr(notes, char(0)) = 0 AND notes NOT GLOB ('*' || char(65533) || '*')),
  CONSTRAINT firing_notes_canonical CHECK (notes = trim(notes, char(9, 10, 11, 12, 13, 32, 160, 5760, 8192, 8193, 8194, 8195, 8196, 8197, 8198, 8199, 8200, 8201, 8202, 8232, 8233, 8239, 8287, 12288, 65279)) AND notes <> '' AND instr(notes, char(13)) = 0),
  CONSTRAINT firing_notes_max_length CHECK (length(notes) <= 500),
  CONSTRAINT firing_collect_after_loading CHECK (collect_on > load_on),
  CONSTRAINT firing_lustre_needs_venting CHECK (NOT (glaze = 'lustre') OR vented = 1),
  CONSTRAINT firing_celadon_fired_hot CHECK (NOT (glaze = 'celadon') OR peak >= 1200),
  CONSTRAINT firing_kiln_reference FOREIGN KEY (kiln) REFERENCES kilns (code) ON DELETE NO ACTION,
  CONSTRAINT firing_potter_reference FOREIGN KEY (potter) REFERENCES potters (handle) ON DELETE NO ACTION,
  CONSTRAINT firing_one_firing_per_day UNIQUE (kiln, load_on)
) STRICT;

CREATE TRIGGER firing_potter_pattern_insert BEFORE INSERT ON firings
WHEN NEW.potter IS NOT NULL AND NOT EXISTS (
  WITH RECURSIVE
    moves (state, low, high, next) AS (VALUES (0, 97, 122, 1), (1, 45, 45, 2), (1, 48, 57, 1), (1, 97, 122, 1), (2, 48, 57, 1), (2, 97, 122, 1)),
    walk (position, state) AS (
      SELECT 1, 0
      UNION ALL
      SELECT position + 1, moves.next FROM walk JOIN moves ON moves.state = walk.state
        AND unicode(substr(NEW.potter, position, 1)) BETWEEN moves.low AND moves.high
      WHERE position <= length(NEW.potter)
    )
  SELECT 1 FROM walk WHERE position = length(NEW.potter) + 1 AND state IN (1)
)
BEGIN
  SELECT RAISE(ABORT, 'firing_potter_pattern');
END;

CREATE TRIGGER firing_potter_pattern_update BEFORE UPDATE OF potter ON firings
WHEN NEW.potter IS NOT NULL AND NOT EXISTS (
  WITH RECURSIVE
    moves (state, low, high, next) AS (VALUES (0, 97, 122, 1), (1, 45, 45, 2), (1, 48, 57, 1), (1, 97, 122, 1), (2, 48, 57, 1), (2, 97, 122, 1)),
    walk (position, state) AS (
      SELECT 1, 0
      UNION ALL
      SELECT position + 1, moves.next FROM walk JOIN moves ON moves.state = walk.state
        AND unicode(substr(NEW.potter, position, 1)) BETWEEN moves.low AND moves.high
      WHERE position <= length(NEW.potter)
    )
  SELECT 1 FROM walk WHERE position = length(NEW.potter) + 1 AND state IN (1)
)
BEGIN
  SELECT RAISE(ABORT, 'firing_potter_pattern');
END;

CREATE INDEX firing_potter_reference_index ON firings (potter);
