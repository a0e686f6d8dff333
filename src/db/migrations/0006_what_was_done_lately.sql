ALTER TABLE `audit` ADD `within` text;--> statement-breakpoint
CREATE INDEX `audit_undo` ON `audit` (`course_id`,`at`) WHERE undo is not null;--> statement-breakpoint
CREATE INDEX `audit_within` ON `audit` (`within`,`at`) WHERE undo is not null;