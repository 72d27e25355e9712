<?php

declare(strict_types=1);

namespace App\Study;

/** What a member may do: an owner everything, an editor everything but deleting, a reader only look. */
enum Role: string
{
    case Owner = 'owner';
    case Editor = 'editor';
    case Reader = 'reader';

    public function covers(self $needed): bool
    {
        $rank = static fn (self $r): int => match ($r) {
            self::Owner => 3,
            self::Editor => 2,
            self::Reader => 1,
        };

        return $rank($this) >= $rank($needed);
    }
}
