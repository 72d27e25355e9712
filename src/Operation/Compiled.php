<?php

declare(strict_types=1);

namespace App\Operation;

/** How PHP is started where it computes: compiled while it runs, as config/jit.ini says. */
final class Compiled
{
    /** @return list<string> options of the command line */
    public static function options(): array
    {
        $out = [];
        foreach (file(\dirname(__DIR__, 2).'/config/jit.ini', \FILE_IGNORE_NEW_LINES | \FILE_SKIP_EMPTY_LINES) ?: [] as $line) {
            if (!str_starts_with($line, ';')) {
                array_push($out, '-d', $line);
            }
        }

        return $out;
    }
}
