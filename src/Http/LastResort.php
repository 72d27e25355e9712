<?php

declare(strict_types=1);

namespace App\Http;

use Symfony\Component\HttpFoundation\Response;

/** What is answered when nothing else can answer. */
final class LastResort
{
    public static function answer(\Throwable $e): Response
    {
        $full = FullDisk::isBehind($e);

        return Problem::response($full ? 507 : 500, $full ? FullDisk::SAYS : 'Something went wrong that should not have. Nothing was changed; the log has the details.');
    }
}
