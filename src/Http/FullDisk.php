<?php

declare(strict_types=1);

namespace App\Http;

/** Recognizes a full disk, whoever complains of it first. */
final class FullDisk
{
    public const SAYS = 'The disk of this installation is full. Nothing was changed and nothing is lost; it goes on when there is room again.';

    public static function isBehind(?\Throwable $e): bool
    {
        for (; null !== $e; $e = $e->getPrevious()) {
            if (1 === preg_match('/disk is full|disk full|no space left|errno=28|disk I\/O error|Disk quota/i', $e->getMessage())) {
                return true;
            }
        }

        return false;
    }
}
