CREATE TABLE `taken_copy` (
	`layout_id` text NOT NULL,
	`copy` integer NOT NULL,
	PRIMARY KEY(`layout_id`, `copy`),
	FOREIGN KEY (`layout_id`) REFERENCES `sheet_layout`(`id`) ON UPDATE no action ON DELETE no action
) WITHOUT ROWID;
--> statement-breakpoint
ALTER TABLE `sheet_layout` ADD `paper` text;