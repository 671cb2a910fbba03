PRAGMA foreign_keys=OFF;--> statement-breakpoint
INSERT INTO `saving`("exchange", "n", "bytes", "at") SELECT "id", 0, "sent", "at" FROM `exchange`;--> statement-breakpoint
INSERT INTO `saving`("exchange", "n", "bytes", "at") SELECT "id", 1, "agreed", "at" FROM `exchange` WHERE "agreed" <> "sent";--> statement-breakpoint
CREATE TABLE `__new_exchange` (
	`id` text PRIMARY KEY NOT NULL,
	`project` text NOT NULL,
	`what` text NOT NULL,
	`file` text NOT NULL,
	`agreed` integer DEFAULT 0 NOT NULL,
	`seen` text NOT NULL,
	`at` integer NOT NULL,
	FOREIGN KEY (`project`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
INSERT INTO `__new_exchange`("id", "project", "what", "file", "agreed", "seen", "at") SELECT "id", "project", "what", "file", "agreed" <> "sent", "seen", "at" FROM `exchange`;--> statement-breakpoint
DROP TABLE `exchange`;--> statement-breakpoint
ALTER TABLE `__new_exchange` RENAME TO `exchange`;--> statement-breakpoint
PRAGMA foreign_keys=ON;