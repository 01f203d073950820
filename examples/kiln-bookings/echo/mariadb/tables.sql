-- Made by echo-rule from rules/kiln.rules.ts, rules/potter.rules.ts, rules/firing.rules.ts. Change the rules, not this file: it is made again.
-- Digest: sha256-b9d591b040f858ffa7ac3285af573e6ddc4a1ab6a4b4efe3655926290dd5366b

-- Literals here read a backslash as an escape.
SET @sql_mode_before = @@sql_mode, SESSION sql_mode = replace(@@sql_mode, 'NO_BACKSLASH_ESCAPES', '');

-- Tables of these names that are there already must be these very ones.
SET @differences = (
  WITH
  declared_table AS (
    SELECT 'kilns' AS table_name, 'echo-rule b4896ca8046a4075' AS mark
    UNION ALL SELECT 'potters', 'echo-rule cb6a43e081b72803'
    UNION ALL SELECT 'firings', 'echo-rule 912b4e67213d1c0d'
    UNION ALL SELECT 'firings_helpers', 'echo-rule bd0f2fe75fd6f5c7'),
  declared_column AS (
    SELECT 'kilns' AS table_name, 'code' AS column_name, 'varchar(4)' AS type, 'NOT NULL' AS required
    UNION ALL SELECT 'kilns', 'name', 'varchar(41)', 'NOT NULL'
    UNION ALL SELECT 'kilns', 'hottest', 'smallint', 'NOT NULL'
    UNION ALL SELECT 'potters', 'handle', 'varchar(21)', 'NOT NULL'
    UNION ALL SELECT 'potters', 'name', 'varchar(61)', 'NOT NULL'
    UNION ALL SELECT 'potters', 'phone', 'varchar(29)', 'NULL'
    UNION ALL SELECT 'potters', 'email', 'varchar(255)', 'NULL'
    UNION ALL SELECT 'potters', 'member_since', 'date', 'NOT NULL'
    UNION ALL SELECT 'potters', 'inducted', 'tinyint', 'NOT NULL'
    UNION ALL SELECT 'firings', 'tag', 'varchar(8)', 'NOT NULL'
    UNION ALL SELECT 'firings', 'kiln', 'varchar(4)', 'NOT NULL'
    UNION ALL SELECT 'firings', 'potter', 'varchar(21)', 'NOT NULL'
    UNION ALL SELECT 'firings', 'title', 'varchar(61)', 'NOT NULL'
    UNION ALL SELECT 'firings', 'pieces', 'tinyint', 'NOT NULL'
    UNION ALL SELECT 'firings', 'peak', 'smallint', 'NOT NULL'
    UNION ALL SELECT 'firings', 'glaze', 'varchar(8)', 'NOT NULL'
    UNION ALL SELECT 'firings', 'vented', 'tinyint', 'NOT NULL'
    UNION ALL SELECT 'firings', 'fee', 'decimal(5,2)', 'NULL'
    UNION ALL SELECT 'firings', 'load_on', 'date', 'NOT NULL'
    UNION ALL SELECT 'firings', 'collect_on', 'date', 'NULL'
    UNION ALL SELECT 'firings', 'shelf_bay', 'varchar(3)', 'NULL'
    UNION ALL SELECT 'firings', 'shelf_level', 'tinyint', 'NULL'
    UNION ALL SELECT 'firings', 'notes', 'varchar(501)', 'NULL'
    UNION ALL SELECT 'firings_helpers', 'firing_tag', 'varchar(8)', 'NOT NULL'
    UNION ALL SELECT 'firings_helpers', 'position', 'int', 'NOT NULL'
    UNION ALL SELECT 'firings_helpers', 'item', 'varchar(31)', 'NOT NULL'),
  there AS (
    SELECT d.table_name, d.mark, t.table_comment FROM declared_table d
    JOIN information_schema.tables t ON t.table_schema = database() AND t.table_name = CONVERT(d.table_name USING utf8mb3)),
  found_column AS (
    SELECT c.table_name, c.column_name, regexp_replace(c.column_type, '^((?:tiny|small|medium|big)?int)\\([0-9]+\\)', '\\1') AS type,
      if(c.is_nullable = 'NO', 'NOT NULL', 'NULL') AS required
    FROM information_schema.columns c JOIN there t ON c.table_name = t.table_name
    WHERE c.table_schema = database() AND c.generation_expression IS NULL),
  difference AS (
    SELECT concat(d.table_name, '.', d.column_name, ' is ', coalesce(concat(f.type, ' ', f.required), 'not there'),
      ', declared ', d.type, ' ', d.required) AS what
    FROM declared_column d JOIN there t ON t.table_name = d.table_name
    LEFT JOIN found_column f ON f.table_name = d.table_name AND f.column_name = d.column_name
    WHERE NOT (d.type <=> f.type AND d.required <=> f.required)
    UNION ALL
    SELECT concat(f.table_name, '.', f.column_name, ' is ', f.type, ', declared not at all') FROM found_column f
    LEFT JOIN declared_column d ON f.table_name = d.table_name AND f.column_name = d.column_name WHERE d.column_name IS NULL
    UNION ALL
    SELECT concat(table_name, ' was made from other rules') FROM there WHERE locate(mark, table_comment) = 0)
  SELECT left(concat('the tables that are there differ: ', group_concat(what SEPARATOR '; ')), 500) FROM difference);
EXECUTE IMMEDIATE if(@differences IS NULL, 'DO 0', 'SIGNAL SQLSTATE ''45000'' SET MESSAGE_TEXT = @differences');

CREATE TABLE IF NOT EXISTS `kilns` (
  `code` varchar(4) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL COMMENT 'Kiln code',
  `name` varchar(41) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL COMMENT 'Name',
  `hottest` smallint NOT NULL COMMENT 'Hottest firing (°C)',
  CONSTRAINT `kiln_code_unique` PRIMARY KEY (`code`),
  CONSTRAINT `kiln_code_type` CHECK (`code` NOT REGEXP '[\\x{0}\\x{fffd}]'),
  CONSTRAINT `kiln_code_canonical` CHECK (`code` NOT REGEXP '^[\\x{9}\\x{a}\\x{b}\\x{c}\\x{d}\\x{20}\\x{a0}\\x{1680}\\x{2000}\\x{2001}\\x{2002}\\x{2003}\\x{2004}\\x{2005}\\x{2006}\\x{2007}\\x{2008}\\x{2009}\\x{200a}\\x{2028}\\x{2029}\\x{202f}\\x{205f}\\x{3000}\\x{feff}]|[\\x{9}\\x{a}\\x{b}\\x{c}\\x{d}\\x{20}\\x{a0}\\x{1680}\\x{2000}\\x{2001}\\x{2002}\\x{2003}\\x{2004}\\x{2005}\\x{2006}\\x{2007}\\x{2008}\\x{2009}\\x{200a}\\x{2028}\\x{2029}\\x{202f}\\x{205f}\\x{3000}\\x{feff}]\\z' AND `code` <> ''),
  CONSTRAINT `kiln_code_lines` CHECK (`code` REGEXP '(?-i)^(?:[^\\x{a}\\x{d}]*)\\z'),
  CONSTRAINT `kiln_code_pattern` CHECK (`code` REGEXP '(?-i)^(?:K[0-9]{2})\\z'),
  CONSTRAINT `kiln_name_type` CHECK (`name` NOT REGEXP '[\\x{0}\\x{fffd}]'),
  CONSTRAINT `kiln_name_canonical` CHECK (`name` NOT REGEXP '^[\\x{9}\\x{a}\\x{b}\\x{c}\\x{d}\\x{20}\\x{a0}\\x{1680}\\x{2000}\\x{2001}\\x{2002}\\x{2003}\\x{2004}\\x{2005}\\x{2006}\\x{2007}\\x{2008}\\x{2009}\\x{200a}\\x{2028}\\x{2029}\\x{202f}\\x{205f}\\x{3000}\\x{feff}]|[\\x{9}\\x{a}\\x{b}\\x{c}\\x{d}\\x{20}\\x{a0}\\x{1680}\\x{2000}\\x{2001}\\x{2002}\\x{2003}\\x{2004}\\x{2005}\\x{2006}\\x{2007}\\x{2008}\\x{2009}\\x{200a}\\x{2028}\\x{2029}\\x{202f}\\x{205f}\\x{3000}\\x{feff}]\\z' AND `name` <> ''),
  CONSTRAINT `kiln_name_lines` CHECK (`name` REGEXP '(?-i)^(?:[^\\x{a}\\x{d}]*)\\z'),
  CONSTRAINT `kiln_name_min_length` CHECK (char_length(`name`) >= 2),
  CONSTRAINT `kiln_name_max_length` CHECK (char_length(`name`) <= 40),
  CONSTRAINT `kiln_hottest_min` CHECK (`hottest` >= 900),
  CONSTRAINT `kiln_hottest_max` CHECK (`hottest` <= 1400)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_nopad_bin COMMENT='Kiln (echo-rule b4896ca8046a4075)';

CREATE TABLE IF NOT EXISTS `potters` (
  `handle` varchar(21) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL COMMENT 'Short name',
  `name` varchar(61) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL COMMENT 'Name',
  `phone` varchar(29) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin COMMENT 'Phone',
  `email` varchar(255) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin COMMENT 'Email',
  `member_since` date NOT NULL COMMENT 'Member since',
  `inducted` tinyint(1) NOT NULL COMMENT 'Has had the kiln induction',
  CONSTRAINT `potter_handle_unique` PRIMARY KEY (`handle`),
  CONSTRAINT `potter_handle_type` CHECK (`handle` NOT REGEXP '[\\x{0}\\x{fffd}]'),
  CONSTRAINT `potter_handle_canonical` CHECK (`handle` NOT REGEXP '^[\\x{9}\\x{a}\\x{b}\\x{c}\\x{d}\\x{20}\\x{a0}\\x{1680}\\x{2000}\\x{2001}\\x{2002}\\x{2003}\\x{2004}\\x{2005}\\x{2006}\\x{2007}\\x{2008}\\x{2009}\\x{200a}\\x{2028}\\x{2029}\\x{202f}\\x{205f}\\x{3000}\\x{feff}]|[\\x{9}\\x{a}\\x{b}\\x{c}\\x{d}\\x{20}\\x{a0}\\x{1680}\\x{2000}\\x{2001}\\x{2002}\\x{2003}\\x{2004}\\x{2005}\\x{2006}\\x{2007}\\x{2008}\\x{2009}\\x{200a}\\x{2028}\\x{2029}\\x{202f}\\x{205f}\\x{3000}\\x{feff}]\\z' AND `handle` <> ''),
  CONSTRAINT `potter_handle_lines` CHECK (`handle` REGEXP '(?-i)^(?:[^\\x{a}\\x{d}]*)\\z'),
  CONSTRAINT `potter_handle_max_length` CHECK (char_length(`handle`) <= 20),
  CONSTRAINT `potter_handle_pattern` CHECK (`handle` REGEXP '(?-i)^(?:[a-z][0-9a-z]*(?:\\x{2d}[0-9a-z]+)*)\\z'),
  CONSTRAINT `potter_name_type` CHECK (`name` NOT REGEXP '[\\x{0}\\x{fffd}]'),
  CONSTRAINT `potter_name_canonical` CHECK (`name` NOT REGEXP '^[\\x{9}\\x{a}\\x{b}\\x{c}\\x{d}\\x{20}\\x{a0}\\x{1680}\\x{2000}\\x{2001}\\x{2002}\\x{2003}\\x{2004}\\x{2005}\\x{2006}\\x{2007}\\x{2008}\\x{2009}\\x{200a}\\x{2028}\\x{2029}\\x{202f}\\x{205f}\\x{3000}\\x{feff}]|[\\x{9}\\x{a}\\x{b}\\x{c}\\x{d}\\x{20}\\x{a0}\\x{1680}\\x{2000}\\x{2001}\\x{2002}\\x{2003}\\x{2004}\\x{2005}\\x{2006}\\x{2007}\\x{2008}\\x{2009}\\x{200a}\\x{2028}\\x{2029}\\x{202f}\\x{205f}\\x{3000}\\x{feff}]\\z' AND `name` <> ''),
  CONSTRAINT `potter_name_lines` CHECK (`name` REGEXP '(?-i)^(?:[^\\x{a}\\x{d}]*)\\z'),
  CONSTRAINT `potter_name_min_length` CHECK (char_length(`name`) >= 2),
  CONSTRAINT `potter_name_max_length` CHECK (char_length(`name`) <= 60),
  CONSTRAINT `potter_phone_type` CHECK (`phone` NOT REGEXP '[\\x{0}\\x{fffd}]'),
  CONSTRAINT `potter_phone_canonical` CHECK (`phone` NOT REGEXP '^[\\x{9}\\x{a}\\x{b}\\x{c}\\x{d}\\x{20}\\x{a0}\\x{1680}\\x{2000}\\x{2001}\\x{2002}\\x{2003}\\x{2004}\\x{2005}\\x{2006}\\x{2007}\\x{2008}\\x{2009}\\x{200a}\\x{2028}\\x{2029}\\x{202f}\\x{205f}\\x{3000}\\x{feff}]|[\\x{9}\\x{a}\\x{b}\\x{c}\\x{d}\\x{20}\\x{a0}\\x{1680}\\x{2000}\\x{2001}\\x{2002}\\x{2003}\\x{2004}\\x{2005}\\x{2006}\\x{2007}\\x{2008}\\x{2009}\\x{200a}\\x{2028}\\x{2029}\\x{202f}\\x{205f}\\x{3000}\\x{feff}]\\z' AND `phone` <> ''),
  CONSTRAINT `potter_phone_lines` CHECK (`phone` REGEXP '(?-i)^(?:[^\\x{a}\\x{d}]*)\\z'),
  CONSTRAINT `potter_phone_pattern` CHECK (`phone` REGEXP '(?-i)^(?:\\x{2b}[0-9]{1,3}(?:\\x{20}[0-9]{2,5}){2,4})\\z'),
  CONSTRAINT `potter_email_type` CHECK (`email` NOT REGEXP '[\\x{0}\\x{fffd}]'),
  CONSTRAINT `potter_email_canonical` CHECK (`email` NOT REGEXP '^[\\x{9}\\x{a}\\x{b}\\x{c}\\x{d}\\x{20}\\x{a0}\\x{1680}\\x{2000}\\x{2001}\\x{2002}\\x{2003}\\x{2004}\\x{2005}\\x{2006}\\x{2007}\\x{2008}\\x{2009}\\x{200a}\\x{2028}\\x{2029}\\x{202f}\\x{205f}\\x{3000}\\x{feff}]|[\\x{9}\\x{a}\\x{b}\\x{c}\\x{d}\\x{20}\\x{a0}\\x{1680}\\x{2000}\\x{2001}\\x{2002}\\x{2003}\\x{2004}\\x{2005}\\x{2006}\\x{2007}\\x{2008}\\x{2009}\\x{200a}\\x{2028}\\x{2029}\\x{202f}\\x{205f}\\x{3000}\\x{feff}]\\z' AND `email` <> '' AND `email` NOT REGEXP '(?-i)[A-Z]'),
  CONSTRAINT `potter_email_lines` CHECK (`email` REGEXP '(?-i)^(?:[^\\x{a}\\x{d}]*)\\z'),
  CONSTRAINT `potter_email_format` CHECK (`email` REGEXP '(?-i)^(?:[\\x{21}\\x{23}-\\x{27}\\x{2a}-\\x{2b}\\x{2d}-9\\x{3d}\\x{3f}A-Z\\x{5e}-\\x{7e}]{1,64}\\x{40}[0-9A-Za-z](?:[\\x{2d}0-9A-Za-z]{0,61}[0-9A-Za-z])?(?:\\x{2e}[0-9A-Za-z](?:[\\x{2d}0-9A-Za-z]{0,61}[0-9A-Za-z])?)*)\\z'),
  CONSTRAINT `potter_email_max_length` CHECK (char_length(`email`) <= 254),
  CONSTRAINT `potter_member_since_type` CHECK (`member_since` BETWEEN '0001-01-01' AND '9999-12-31' AND month(`member_since`) > 0 AND dayofmonth(`member_since`) BETWEEN 1 AND dayofmonth(last_day(`member_since`))),
  CONSTRAINT `potter_member_since_min` CHECK (`member_since` >= '2015-01-01'),
  CONSTRAINT `potter_inducted_type` CHECK (`inducted` IN (0, 1)),
  CONSTRAINT `potter_phone_taken_once` UNIQUE (`phone`),
  CONSTRAINT `potter_email_taken_once` UNIQUE (`email`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_nopad_bin COMMENT='Potter (echo-rule cb6a43e081b72803)';

CREATE TABLE IF NOT EXISTS `firings` (
  `tag` varchar(8) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL COMMENT 'Firing tag',
  `kiln` varchar(4) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL COMMENT 'Kiln',
  `potter` varchar(21) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL COMMENT 'Booked by',
  `title` varchar(61) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL COMMENT 'What is fired',
  `pieces` tinyint NOT NULL COMMENT 'Number of pieces',
  `peak` smallint NOT NULL COMMENT 'Peak temperature (°C)',
  `glaze` varchar(8) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL COMMENT 'Glaze',
  `vented` tinyint(1) NOT NULL COMMENT 'Vent open',
  `fee` decimal(5,2) COMMENT 'Fee paid',
  `load_on` date NOT NULL COMMENT 'Loading day',
  `collect_on` date COMMENT 'Collection day',
  `shelf_bay` varchar(3) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin COMMENT 'Bay',
  `shelf_level` tinyint COMMENT 'Level',
  `notes` varchar(501) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin COMMENT 'Notes',
  CONSTRAINT `firing_tag_unique` PRIMARY KEY (`tag`),
  CONSTRAINT `firing_tag_type` CHECK (`tag` NOT REGEXP '[\\x{0}\\x{fffd}]'),
  CONSTRAINT `firing_tag_canonical` CHECK (`tag` NOT REGEXP '^[\\x{9}\\x{a}\\x{b}\\x{c}\\x{d}\\x{20}\\x{a0}\\x{1680}\\x{2000}\\x{2001}\\x{2002}\\x{2003}\\x{2004}\\x{2005}\\x{2006}\\x{2007}\\x{2008}\\x{2009}\\x{200a}\\x{2028}\\x{2029}\\x{202f}\\x{205f}\\x{3000}\\x{feff}]|[\\x{9}\\x{a}\\x{b}\\x{c}\\x{d}\\x{20}\\x{a0}\\x{1680}\\x{2000}\\x{2001}\\x{2002}\\x{2003}\\x{2004}\\x{2005}\\x{2006}\\x{2007}\\x{2008}\\x{2009}\\x{200a}\\x{2028}\\x{2029}\\x{202f}\\x{205f}\\x{3000}\\x{feff}]\\z' AND `tag` <> ''),
  CONSTRAINT `firing_tag_lines` CHECK (`tag` REGEXP '(?-i)^(?:[^\\x{a}\\x{d}]*)\\z'),
  CONSTRAINT `firing_tag_pattern` CHECK (`tag` REGEXP '(?-i)^(?:[A-Z]{2}\\x{2d}[0-9]{4})\\z'),
  CONSTRAINT `firing_kiln_type` CHECK (`kiln` NOT REGEXP '[\\x{0}\\x{fffd}]'),
  CONSTRAINT `firing_kiln_canonical` CHECK (`kiln` NOT REGEXP '^[\\x{9}\\x{a}\\x{b}\\x{c}\\x{d}\\x{20}\\x{a0}\\x{1680}\\x{2000}\\x{2001}\\x{2002}\\x{2003}\\x{2004}\\x{2005}\\x{2006}\\x{2007}\\x{2008}\\x{2009}\\x{200a}\\x{2028}\\x{2029}\\x{202f}\\x{205f}\\x{3000}\\x{feff}]|[\\x{9}\\x{a}\\x{b}\\x{c}\\x{d}\\x{20}\\x{a0}\\x{1680}\\x{2000}\\x{2001}\\x{2002}\\x{2003}\\x{2004}\\x{2005}\\x{2006}\\x{2007}\\x{2008}\\x{2009}\\x{200a}\\x{2028}\\x{2029}\\x{202f}\\x{205f}\\x{3000}\\x{feff}]\\z' AND `kiln` <> ''),
  CONSTRAINT `firing_kiln_lines` CHECK (`kiln` REGEXP '(?-i)^(?:[^\\x{a}\\x{d}]*)\\z'),
  CONSTRAINT `firing_kiln_pattern` CHECK (`kiln` REGEXP '(?-i)^(?:K[0-9]{2})\\z'),
  CONSTRAINT `firing_potter_type` CHECK (`potter` NOT REGEXP '[\\x{0}\\x{fffd}]'),
  CONSTRAINT `firing_potter_canonical` CHECK (`potter` NOT REGEXP '^[\\x{9}\\x{a}\\x{b}\\x{c}\\x{d}\\x{20}\\x{a0}\\x{1680}\\x{2000}\\x{2001}\\x{2002}\\x{2003}\\x{2004}\\x{2005}\\x{2006}\\x{2007}\\x{2008}\\x{2009}\\x{200a}\\x{2028}\\x{2029}\\x{202f}\\x{205f}\\x{3000}\\x{feff}]|[\\x{9}\\x{a}\\x{b}\\x{c}\\x{d}\\x{20}\\x{a0}\\x{1680}\\x{2000}\\x{2001}\\x{2002}\\x{2003}\\x{2004}\\x{2005}\\x{2006}\\x{2007}\\x{2008}\\x{2009}\\x{200a}\\x{2028}\\x{2029}\\x{202f}\\x{205f}\\x{3000}\\x{feff}]\\z' AND `potter` <> ''),
  CONSTRAINT `firing_potter_lines` CHECK (`potter` REGEXP '(?-i)^(?:[^\\x{a}\\x{d}]*)\\z'),
  CONSTRAINT `firing_potter_max_length` CHECK (char_length(`potter`) <= 20),
  CONSTRAINT `firing_potter_pattern` CHECK (`potter` REGEXP '(?-i)^(?:[a-z][0-9a-z]*(?:\\x{2d}[0-9a-z]+)*)\\z'),
  CONSTRAINT `firing_title_type` CHECK (`title` NOT REGEXP '[\\x{0}\\x{fffd}]'),
  CONSTRAINT `firing_title_canonical` CHECK (`title` NOT REGEXP '^[\\x{9}\\x{a}\\x{b}\\x{c}\\x{d}\\x{20}\\x{a0}\\x{1680}\\x{2000}\\x{2001}\\x{2002}\\x{2003}\\x{2004}\\x{2005}\\x{2006}\\x{2007}\\x{2008}\\x{2009}\\x{200a}\\x{2028}\\x{2029}\\x{202f}\\x{205f}\\x{3000}\\x{feff}]|[\\x{9}\\x{a}\\x{b}\\x{c}\\x{d}\\x{20}\\x{a0}\\x{1680}\\x{2000}\\x{2001}\\x{2002}\\x{2003}\\x{2004}\\x{2005}\\x{2006}\\x{2007}\\x{2008}\\x{2009}\\x{200a}\\x{2028}\\x{2029}\\x{202f}\\x{205f}\\x{3000}\\x{feff}]\\z' AND `title` <> ''),
  CONSTRAINT `firing_title_lines` CHECK (`title` REGEXP '(?-i)^(?:[^\\x{a}\\x{d}]*)\\z'),
  CONSTRAINT `firing_title_min_length` CHECK (char_length(`title`) >= 3),
  CONSTRAINT `firing_title_max_length` CHECK (char_length(`title`) <= 60),
  CONSTRAINT `firing_pieces_min` CHECK (`pieces` >= 1),
  CONSTRAINT `firing_pieces_max` CHECK (`pieces` <= 40),
  CONSTRAINT `firing_peak_min` CHECK (`peak` >= 600),
  CONSTRAINT `firing_peak_max` CHECK (`peak` <= 1320),
  CONSTRAINT `firing_glaze_enumeration` CHECK (`glaze` IN ('none', 'celadon', 'tenmoku', 'lustre')),
  CONSTRAINT `firing_vented_type` CHECK (`vented` IN (0, 1)),
  CONSTRAINT `firing_fee_precision` CHECK (`fee` < 1000 AND `fee` > -1000),
  CONSTRAINT `firing_fee_scale` CHECK ((abs(`fee`) % 0.01) = 0),
  CONSTRAINT `firing_fee_min` CHECK (`fee` >= 0),
  CONSTRAINT `firing_fee_max` CHECK (`fee` <= 500),
  CONSTRAINT `firing_load_on_type` CHECK (`load_on` BETWEEN '0001-01-01' AND '9999-12-31' AND month(`load_on`) > 0 AND dayofmonth(`load_on`) BETWEEN 1 AND dayofmonth(last_day(`load_on`))),
  CONSTRAINT `firing_collect_on_type` CHECK (`collect_on` BETWEEN '0001-01-01' AND '9999-12-31' AND month(`collect_on`) > 0 AND dayofmonth(`collect_on`) BETWEEN 1 AND dayofmonth(last_day(`collect_on`))),
  CONSTRAINT `firing_shelf_bay_required` CHECK (`shelf_bay` IS NOT NULL OR (`shelf_bay` IS NULL AND `shelf_level` IS NULL)),
  CONSTRAINT `firing_shelf_bay_type` CHECK (`shelf_bay` NOT REGEXP '[\\x{0}\\x{fffd}]'),
  CONSTRAINT `firing_shelf_bay_canonical` CHECK (`shelf_bay` NOT REGEXP '^[\\x{9}\\x{a}\\x{b}\\x{c}\\x{d}\\x{20}\\x{a0}\\x{1680}\\x{2000}\\x{2001}\\x{2002}\\x{2003}\\x{2004}\\x{2005}\\x{2006}\\x{2007}\\x{2008}\\x{2009}\\x{200a}\\x{2028}\\x{2029}\\x{202f}\\x{205f}\\x{3000}\\x{feff}]|[\\x{9}\\x{a}\\x{b}\\x{c}\\x{d}\\x{20}\\x{a0}\\x{1680}\\x{2000}\\x{2001}\\x{2002}\\x{2003}\\x{2004}\\x{2005}\\x{2006}\\x{2007}\\x{2008}\\x{2009}\\x{200a}\\x{2028}\\x{2029}\\x{202f}\\x{205f}\\x{3000}\\x{feff}]\\z' AND `shelf_bay` <> ''),
  CONSTRAINT `firing_shelf_bay_lines` CHECK (`shelf_bay` REGEXP '(?-i)^(?:[^\\x{a}\\x{d}]*)\\z'),
  CONSTRAINT `firing_shelf_bay_pattern` CHECK (`shelf_bay` REGEXP '(?-i)^(?:[A-F][0-9]?)\\z'),
  CONSTRAINT `firing_shelf_level_required` CHECK (`shelf_level` IS NOT NULL OR (`shelf_level` IS NULL AND `shelf_bay` IS NULL)),
  CONSTRAINT `firing_shelf_level_min` CHECK (`shelf_level` >= 1),
  CONSTRAINT `firing_shelf_level_max` CHECK (`shelf_level` <= 6),
  CONSTRAINT `firing_notes_type` CHECK (`notes` NOT REGEXP '[\\x{0}\\x{fffd}]'),
  CONSTRAINT `firing_notes_canonical` CHECK (`notes` NOT REGEXP '^[\\x{9}\\x{a}\\x{b}\\x{c}\\x{d}\\x{20}\\x{a0}\\x{1680}\\x{2000}\\x{2001}\\x{2002}\\x{2003}\\x{2004}\\x{2005}\\x{2006}\\x{2007}\\x{2008}\\x{2009}\\x{200a}\\x{2028}\\x{2029}\\x{202f}\\x{205f}\\x{3000}\\x{feff}]|[\\x{9}\\x{a}\\x{b}\\x{c}\\x{d}\\x{20}\\x{a0}\\x{1680}\\x{2000}\\x{2001}\\x{2002}\\x{2003}\\x{2004}\\x{2005}\\x{2006}\\x{2007}\\x{2008}\\x{2009}\\x{200a}\\x{2028}\\x{2029}\\x{202f}\\x{205f}\\x{3000}\\x{feff}]\\z' AND `notes` <> '' AND `notes` NOT REGEXP '\\x{d}'),
  CONSTRAINT `firing_notes_max_length` CHECK (char_length(`notes`) <= 500),
  CONSTRAINT `firing_collect_after_loading` CHECK (`collect_on` > `load_on`),
  CONSTRAINT `firing_lustre_needs_venting` CHECK (NOT (`glaze` = 'lustre') OR `vented` = true),
  CONSTRAINT `firing_celadon_fired_hot` CHECK (NOT (`glaze` = 'celadon') OR `peak` >= 1200),
  CONSTRAINT `firing_kiln_reference` FOREIGN KEY (`kiln`) REFERENCES `kilns` (`code`) ON DELETE NO ACTION,
  CONSTRAINT `firing_potter_reference` FOREIGN KEY (`potter`) REFERENCES `potters` (`handle`) ON DELETE NO ACTION,
  CONSTRAINT `firing_one_firing_per_day` UNIQUE (`kiln`, `load_on`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_nopad_bin COMMENT='Firing (echo-rule 912b4e67213d1c0d)';

CREATE INDEX IF NOT EXISTS `firing_by_potter` ON `firings` (`potter`, `load_on`);

CREATE TABLE IF NOT EXISTS `firings_helpers` (
  `firing_tag` varchar(8) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL COMMENT 'Firing tag',
  `position` int NOT NULL COMMENT 'Place',
  `item` varchar(31) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin NOT NULL COMMENT 'Helper',
  CONSTRAINT `firing_helpers_key` PRIMARY KEY (`firing_tag`, `position`),
  CONSTRAINT `firing_helpers_owner` FOREIGN KEY (`firing_tag`) REFERENCES `firings` (`tag`) ON DELETE CASCADE ON UPDATE CASCADE,
  CONSTRAINT `firing_helpers_place` CHECK (`position` >= 1),
  CONSTRAINT `firing_helpers_max_items` CHECK (`position` <= 4),
  CONSTRAINT `firing_helpers_item_type` CHECK (`item` NOT REGEXP '[\\x{0}\\x{fffd}]'),
  CONSTRAINT `firing_helpers_item_canonical` CHECK (`item` NOT REGEXP '^[\\x{9}\\x{a}\\x{b}\\x{c}\\x{d}\\x{20}\\x{a0}\\x{1680}\\x{2000}\\x{2001}\\x{2002}\\x{2003}\\x{2004}\\x{2005}\\x{2006}\\x{2007}\\x{2008}\\x{2009}\\x{200a}\\x{2028}\\x{2029}\\x{202f}\\x{205f}\\x{3000}\\x{feff}]|[\\x{9}\\x{a}\\x{b}\\x{c}\\x{d}\\x{20}\\x{a0}\\x{1680}\\x{2000}\\x{2001}\\x{2002}\\x{2003}\\x{2004}\\x{2005}\\x{2006}\\x{2007}\\x{2008}\\x{2009}\\x{200a}\\x{2028}\\x{2029}\\x{202f}\\x{205f}\\x{3000}\\x{feff}]\\z' AND `item` <> ''),
  CONSTRAINT `firing_helpers_item_lines` CHECK (`item` REGEXP '(?-i)^(?:[^\\x{a}\\x{d}]*)\\z'),
  CONSTRAINT `firing_helpers_item_max_length` CHECK (char_length(`item`) <= 30),
  CONSTRAINT `firing_helpers_distinct` UNIQUE (`firing_tag`, `item`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_nopad_bin COMMENT='Helpers (echo-rule bd0f2fe75fd6f5c7)';

SET SESSION sql_mode = @sql_mode_before;
