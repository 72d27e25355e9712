<?php

declare(strict_types=1);

namespace App\Http;

use Symfony\Component\EventDispatcher\Attribute\AsEventListener;
use Symfony\Component\HttpKernel\Event\RequestEvent;

/**
 * Lets go of the session once it is known who asks: its file is locked while it is open, so that all requests of one person would wait for
 * the slowest of them. Nothing is kept in a session but who that is.
 */
final class EarlySession
{
    /** After the firewall, which reads it. */
    #[AsEventListener(priority: 6)]
    public function __invoke(RequestEvent $event): void
    {
        $request = $event->getRequest();
        if ($event->isMainRequest() && $request->hasSession() && $request->getSession()->isStarted()) {
            $request->getSession()->save();
        }
    }
}
