<?php

declare(strict_types=1);

namespace App\Job;

/** What this machine is called among those that work on one store: its host name and what was drawn at its first start. */
final class Machine
{
    public static function name(): string
    {
        static $name = [];
        $folder = \is_string($_SERVER['DOKIMOS_DATA'] ?? null) ? $_SERVER['DOKIMOS_DATA'] : sys_get_temp_dir();
        if (!isset($name[$folder])) {
            $file = $folder.'/machine';
            if (!is_file($file)) {
                @file_put_contents($file.'.'.getmypid(), bin2hex(random_bytes(3)));
                // Of several that start at once one draws.
                @link($file.'.'.getmypid(), $file);
                @unlink($file.'.'.getmypid());
            }
            $name[$folder] = mb_substr((string) gethostname(), 0, 60).'-'.trim((string) @file_get_contents($file));
        }

        return $name[$folder];
    }
}
