<?php

declare(strict_types=1);

namespace App\Http;

use Symfony\Component\HttpFoundation\Request;

/** Guards an editable thing against being overwritten unseen. */
final class Version
{
    /**
     * @param mixed $current what is stored now, sent back so that both can be shown
     *
     * @throws Problem 428 without If-Match, 412 when the version is an old one
     */
    public static function check(Request $request, int $version, mixed $current): void
    {
        $sent = trim((string) $request->headers->get('If-Match'), ' "W/');
        if ('' === $sent) {
            throw new Problem(428, 'Say which version you are changing (If-Match).');
        }
        if ($sent !== (string) $version) {
            throw new Problem(412, 'Somebody has changed this in the meantime. Yours was not saved; compare both and save again.', null, ['current' => $current]);
        }
    }
}
