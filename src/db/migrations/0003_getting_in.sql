CREATE TABLE `offer` (
	`id` text PRIMARY KEY NOT NULL,
	`course_id` text NOT NULL,
	`user_id` text NOT NULL,
	`role` text NOT NULL,
	`offered_at` integer NOT NULL,
	`offered_by` text NOT NULL,
	FOREIGN KEY (`course_id`) REFERENCES `course`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`user_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`offered_by`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `offer_person` ON `offer` (`course_id`,`user_id`);--> statement-breakpoint
CREATE INDEX `offer_user` ON `offer` (`user_id`);--> statement-breakpoint
CREATE INDEX `offer_by` ON `offer` (`offered_by`);--> statement-breakpoint
PRAGMA foreign_keys=OFF;--> statement-breakpoint
CREATE TABLE `__new_user` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`last_name` text DEFAULT '' NOT NULL,
	`email` text,
	`sign_in_name` text,
	`keeps_school` integer DEFAULT false NOT NULL,
	`email_verified` integer DEFAULT false NOT NULL,
	`image` text,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL
);
--> statement-breakpoint
-- Who came by a link had a made-up email; whoever began the first course keeps what the school shares.
INSERT INTO `__new_user`("id", "name", "email", "keeps_school", "email_verified", "image", "created_at", "updated_at")
SELECT "id", "name",
	CASE WHEN "email" LIKE '%.invalid' THEN NULL ELSE "email" END,
	COALESCE("id" = (SELECT "user_id" FROM `membership` WHERE "role" = 'instructor' ORDER BY "added_at", rowid LIMIT 1), 0),
	"email_verified", "image", "created_at", "updated_at" FROM `user`;--> statement-breakpoint
DROP TABLE `user`;--> statement-breakpoint
ALTER TABLE `__new_user` RENAME TO `user`;--> statement-breakpoint
PRAGMA foreign_keys=ON;--> statement-breakpoint
CREATE UNIQUE INDEX `user_email_unique` ON `user` (`email`);--> statement-breakpoint
CREATE UNIQUE INDEX `user_sign_in_name_unique` ON `user` (`sign_in_name`);--> statement-breakpoint
ALTER TABLE `invitation` ADD `offer_id` text REFERENCES offer(id) ON DELETE CASCADE;--> statement-breakpoint
CREATE INDEX `invitation_user` ON `invitation` (`user_id`);--> statement-breakpoint
CREATE INDEX `invitation_offer` ON `invitation` (`offer_id`);--> statement-breakpoint
CREATE INDEX `membership_number` ON `membership` (`student_number`);