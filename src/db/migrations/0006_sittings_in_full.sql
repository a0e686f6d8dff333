CREATE TABLE `question_try` (
	`slot_id` text NOT NULL,
	`number` integer NOT NULL,
	`again` integer DEFAULT false NOT NULL,
	`response_revision` integer NOT NULL,
	`value` text,
	`credit` real NOT NULL,
	`at` integer NOT NULL,
	PRIMARY KEY(`slot_id`, `number`),
	FOREIGN KEY (`slot_id`) REFERENCES `paper_slot`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `correction` (
	`id` text PRIMARY KEY NOT NULL,
	`sitting_id` text NOT NULL,
	`version_id` text NOT NULL,
	`text` text NOT NULL,
	`at` integer NOT NULL,
	`by` text NOT NULL,
	`withdrawn_at` integer,
	FOREIGN KEY (`sitting_id`) REFERENCES `sitting`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`version_id`) REFERENCES `question_version`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `correction_sitting` ON `correction` (`sitting_id`,`version_id`);--> statement-breakpoint
CREATE TABLE `question_report` (
	`id` text PRIMARY KEY NOT NULL,
	`sitting_id` text NOT NULL,
	`slot_id` text NOT NULL,
	`question_id` text NOT NULL,
	`version_id` text NOT NULL,
	`user_id` text NOT NULL,
	`text` text NOT NULL,
	`at` integer NOT NULL,
	`answer` text,
	`answered_at` integer,
	`answered_by` text,
	FOREIGN KEY (`sitting_id`) REFERENCES `sitting`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`version_id`) REFERENCES `question_version`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`user_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `question_report_sitting` ON `question_report` (`sitting_id`,`version_id`);--> statement-breakpoint
CREATE INDEX `question_report_slot` ON `question_report` (`slot_id`,`user_id`);--> statement-breakpoint
CREATE TABLE `sitting_note` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`sitting_id` text NOT NULL,
	`kind` text NOT NULL,
	`user_id` text,
	`text` text NOT NULL,
	`at` integer NOT NULL,
	`by` text NOT NULL,
	FOREIGN KEY (`sitting_id`) REFERENCES `sitting`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`user_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `sitting_note_sitting` ON `sitting_note` (`sitting_id`,`id`);--> statement-breakpoint
ALTER TABLE `attempt` ADD `state_before` text;--> statement-breakpoint
ALTER TABLE `attempt` ADD `reached` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `paper_slot` ADD `again_at` integer;--> statement-breakpoint
ALTER TABLE `response_aside` ADD `given_at` integer;--> statement-breakpoint
ALTER TABLE `response_aside` ADD `decision` text;--> statement-breakpoint
ALTER TABLE `response_aside` ADD `decided_by` text;--> statement-breakpoint
ALTER TABLE `response_aside` ADD `decided_at` integer;--> statement-breakpoint
ALTER TABLE `mark` ADD `outdated` integer DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `membership` ADD `only_sitting` text;--> statement-breakpoint
ALTER TABLE `arrangement` ADD `last_start` integer;--> statement-breakpoint
ALTER TABLE `arrangement` ADD `due` integer;--> statement-breakpoint
ALTER TABLE `arrangement` ADD `entry_code` text;--> statement-breakpoint
ALTER TABLE `arrangement` ADD `networks` text;--> statement-breakpoint
ALTER TABLE `arrangement` ADD `let_through` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `sitting` ADD `further` text;--> statement-breakpoint
ALTER TABLE `sitting` ADD `next_task` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `sitting` ADD `acknowledged` text;