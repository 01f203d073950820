CREATE TABLE kilns (code varchar(3) PRIMARY KEY, name varchar(40) NOT NULL, hottest int NOT NULL)
  CHARSET utf8mb4 COLLATE utf8mb4_nopad_bin;
CREATE TABLE potters (
  handle varchar(20) PRIMARY KEY, name varchar(60) NOT NULL, phone varchar(40) UNIQUE, email varchar(100) UNIQUE,
  member_since date NOT NULL, inducted boolean NOT NULL
) CHARSET utf8mb4 COLLATE utf8mb4_nopad_bin;
CREATE TABLE firings (
  tag varchar(8) COLLATE utf8mb4_general_ci PRIMARY KEY CHECK (tag REGEXP '^[A-Z]{2}-[0-9]{4}\\z'),
  kiln varchar(4) NOT NULL CHECK (kiln REGEXP '^K[0-9]{2}\\z') REFERENCES kilns (code),
  potter varchar(21) NOT NULL
    CHECK (potter REGEXP '^[a-z][a-z0-9]*(-[a-z0-9]+)*\\z' AND char_length(potter) <= 20) REFERENCES potters (handle),
  title varchar(61) NOT NULL
    CHECK (length(title) BETWEEN 3 AND 60
      AND title NOT REGEXP '[\\x{0}\\n\\r\\x{fffd}]'
      AND title NOT REGEXP '^[\\x{9}-\\x{d}\\x{20}\\x{a0}\\x{1680}\\x{2000}-\\x{200a}\\x{2028}\\x{2029}\\x{202f}\\x{205f}\\x{3000}\\x{feff}]|[\\x{9}-\\x{d}\\x{20}\\x{a0}\\x{1680}\\x{2000}-\\x{200a}\\x{2028}\\x{2029}\\x{202f}\\x{205f}\\x{3000}\\x{feff}]\\z'),
  pieces tinyint unsigned NOT NULL CHECK (pieces <= 40),
  peak int NOT NULL CHECK (peak BETWEEN 600 AND 1320),
  glaze enum('none', 'celadon', 'tenmoku', 'lustre') COLLATE utf8mb4_general_ci NOT NULL,
  vented boolean NOT NULL,
  load_on date NOT NULL CHECK (load_on BETWEEN '0001-01-01' AND '9999-12-31' AND month(load_on) > 0 AND dayofmonth(load_on) > 0),
  collect_on date CHECK (collect_on BETWEEN '0001-01-01' AND '9999-12-31' AND month(collect_on) > 0 AND dayofmonth(collect_on) > 0),
  fee decimal(5, 2) CHECK (fee BETWEEN 0 AND 500),
  shelf_bay varchar(3) CHECK (shelf_bay REGEXP '^[A-F][0-9]?$'),
  shelf_level int CHECK (shelf_level BETWEEN 1 AND 6),
  notes varchar(501) CHARACTER SET utf8mb3
    CHECK (char_length(notes) <= 500
      AND notes <> '' AND notes NOT REGEXP '[\\x{0}\\r\\x{fffd}]'
      AND notes NOT REGEXP '^[\\x{9}-\\x{d}\\x{20}\\x{a0}\\x{1680}\\x{2000}-\\x{200a}\\x{2028}\\x{2029}\\x{202f}\\x{205f}\\x{3000}\\x{feff}]|[\\x{9}-\\x{d}\\x{20}\\x{a0}\\x{1680}\\x{2000}-\\x{200a}\\x{2028}\\x{2029}\\x{202f}\\x{205f}\\x{3000}\\x{feff}]\\z'),
  CHECK (collect_on > load_on),
  CHECK (glaze <> 'lustre' OR vented = 1),
  CHECK (glaze <> 'celadon' OR peak > 1200),
  CHECK (shelf_bay IS NULL OR shelf_level IS NOT NULL),
  KEY one_firing_per_day (kiln, load_on)
) CHARSET utf8mb4 COLLATE utf8mb4_nopad_bin;
CREATE TABLE firings_helpers (
  firing_tag varchar(8) COLLATE utf8mb4_general_ci NOT NULL REFERENCES firings (tag) ON DELETE CASCADE,
  position int NOT NULL,
  item varchar(31) NOT NULL
    CHECK (char_length(item) <= 30
      AND item <> '' AND item NOT REGEXP '[\\x{0}\\n\\r\\x{fffd}]'
      AND item NOT REGEXP '^[\\x{9}-\\x{d}\\x{20}\\x{a0}\\x{1680}\\x{2000}-\\x{200a}\\x{2028}\\x{2029}\\x{202f}\\x{205f}\\x{3000}\\x{feff}]|[\\x{9}-\\x{d}\\x{20}\\x{a0}\\x{1680}\\x{2000}-\\x{200a}\\x{2028}\\x{2029}\\x{202f}\\x{205f}\\x{3000}\\x{feff}]\\z'),
  PRIMARY KEY (firing_tag, position)
) CHARSET utf8mb4 COLLATE utf8mb4_nopad_bin;
