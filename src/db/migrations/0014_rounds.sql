CREATE TABLE `door_code` (
	`code` text PRIMARY KEY NOT NULL,
	`course_id` text NOT NULL,
	`since` integer NOT NULL,
	`until` integer,
	FOREIGN KEY (`course_id`) REFERENCES `course`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `door_code_course` ON `door_code` (`course_id`,`until`);--> statement-breakpoint
CREATE TABLE `handset` (
	`user_id` text PRIMARY KEY NOT NULL,
	`sitting_id` text NOT NULL,
	`typed` text NOT NULL,
	`student_number` text,
	`way_back` text NOT NULL,
	`made_up` integer DEFAULT false NOT NULL,
	`stands_for` text,
	`joined_at` integer NOT NULL,
	`sent_out_at` integer,
	FOREIGN KEY (`user_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`sitting_id`) REFERENCES `sitting`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`stands_for`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `handset_sitting` ON `handset` (`sitting_id`);--> statement-breakpoint
CREATE UNIQUE INDEX `handset_number` ON `handset` (`sitting_id`,`student_number`);--> statement-breakpoint
CREATE TABLE `round` (
	`sitting_id` text PRIMARY KEY NOT NULL,
	`rules` text NOT NULL,
	`led` text,
	`on_the_spot` integer DEFAULT false NOT NULL,
	`stopped_at` integer,
	`walked_to` integer,
	`made_up_key` text,
	FOREIGN KEY (`sitting_id`) REFERENCES `sitting`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `vote` (
	`slot_id` text NOT NULL,
	`number` integer NOT NULL,
	`value` text,
	`saved_at` integer NOT NULL,
	PRIMARY KEY(`slot_id`, `number`),
	FOREIGN KEY (`slot_id`) REFERENCES `paper_slot`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
ALTER TABLE `attempt` ADD `came_as` text REFERENCES user(id);--> statement-breakpoint
ALTER TABLE `sitting` ADD `is_round` integer DEFAULT false NOT NULL;