ALTER TABLE `exam` ADD `year` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `exam` ADD `subject` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `exam` ADD `level` text DEFAULT '' NOT NULL;