CREATE TABLE `library` (
	`id` text PRIMARY KEY NOT NULL,
	`kind` text NOT NULL,
	`name` text NOT NULL,
	`body` blob NOT NULL,
	`created_at` integer NOT NULL
);
