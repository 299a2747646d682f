DROP TABLE `versions`;--> statement-breakpoint
DROP TABLE `presets`;
