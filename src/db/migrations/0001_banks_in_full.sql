CREATE TABLE `response_file` (
	`id` text PRIMARY KEY NOT NULL,
	`slot_id` text NOT NULL,
	`name` text NOT NULL,
	`type` text NOT NULL,
	`bytes` integer NOT NULL,
	`hash` text NOT NULL,
	`received_at` integer NOT NULL,
	FOREIGN KEY (`slot_id`) REFERENCES `paper_slot`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `response_file_slot` ON `response_file` (`slot_id`);--> statement-breakpoint
CREATE TABLE `media` (
	`hash` text PRIMARY KEY NOT NULL,
	`type` text NOT NULL,
	`kind` text NOT NULL,
	`bytes` integer NOT NULL,
	`width` integer,
	`height` integer,
	`created_at` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `media_bank` (
	`hash` text NOT NULL,
	`bank_id` text NOT NULL,
	PRIMARY KEY(`hash`, `bank_id`),
	FOREIGN KEY (`hash`) REFERENCES `media`(`hash`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`bank_id`) REFERENCES `bank`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `media_version` (
	`hash` text NOT NULL,
	`version_id` text NOT NULL,
	PRIMARY KEY(`hash`, `version_id`),
	FOREIGN KEY (`hash`) REFERENCES `media`(`hash`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `media_version_version` ON `media_version` (`version_id`);--> statement-breakpoint
CREATE TABLE `question_draft` (
	`user_id` text NOT NULL,
	`bank_id` text NOT NULL,
	`subject` text NOT NULL,
	`edit` integer NOT NULL,
	`fields` text NOT NULL,
	`saved_at` integer NOT NULL,
	PRIMARY KEY(`user_id`, `bank_id`, `subject`),
	FOREIGN KEY (`bank_id`) REFERENCES `bank`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `question_tag` (
	`question_id` text NOT NULL,
	`tag` text NOT NULL,
	PRIMARY KEY(`question_id`, `tag`),
	FOREIGN KEY (`question_id`) REFERENCES `question`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `question_tag_tag` ON `question_tag` (`tag`);--> statement-breakpoint
CREATE TABLE `question_words` (
	`row` integer PRIMARY KEY NOT NULL,
	`question_id` text NOT NULL,
	FOREIGN KEY (`question_id`) REFERENCES `question`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE UNIQUE INDEX `question_words_question_id_unique` ON `question_words` (`question_id`);--> statement-breakpoint
CREATE TABLE `saved_filter` (
	`id` text PRIMARY KEY NOT NULL,
	`user_id` text NOT NULL,
	`bank_id` text NOT NULL,
	`name` text NOT NULL,
	`query` text NOT NULL,
	FOREIGN KEY (`bank_id`) REFERENCES `bank`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `saved_filter_name` ON `saved_filter` (`user_id`,`bank_id`,`name`);--> statement-breakpoint
CREATE TABLE `preference` (
	`user_id` text NOT NULL,
	`name` text NOT NULL,
	`value` text NOT NULL,
	PRIMARY KEY(`user_id`, `name`)
);
--> statement-breakpoint
ALTER TABLE `bank` ADD `usual_points` text;--> statement-breakpoint
CREATE INDEX `question_changed` ON `question` (`bank_id`,`updated_at`);