<?php

declare(strict_types=1);

namespace App\Http;

use Symfony\Component\HttpFoundation\Session\Storage\Handler\NativeFileSessionHandler;
use Symfony\Component\HttpFoundation\Session\Storage\Handler\StrictSessionHandler;

/**
 * Sessions in files, of which one that did not change is not written anew: its time is set. On a full disk writing would leave it empty, and
 * everybody would be signed out.
 */
final class Sessions extends StrictSessionHandler
{
    public function __construct(private readonly string $dataDirectory)
    {
        @mkdir($dataDirectory.'/sessions', 0770, true);
        parent::__construct(new NativeFileSessionHandler($dataDirectory.'/sessions'));
    }

    public function updateTimestamp(string $sessionId, string $data): bool
    {
        @touch($this->dataDirectory.'/sessions/sess_'.$sessionId);

        return true;
    }
}
