<?php

declare(strict_types=1);

namespace App\Http;

use Symfony\Component\EventDispatcher\Attribute\AsEventListener;
use Symfony\Component\HttpFoundation\ResponseHeaderBag;
use Symfony\Component\HttpKernel\Event\ResponseEvent;

/** Tells browsers to load nothing from elsewhere. */
final class SecurityHeaders
{
    #[AsEventListener]
    public function __invoke(ResponseEvent $event): void
    {
        self::put($event->getResponse()->headers);
    }

    public static function put(ResponseHeaderBag $headers): void
    {
        $headers->set('Content-Security-Policy', "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; font-src 'self'; connect-src 'self'; frame-ancestors 'none'; base-uri 'self'; form-action 'self'");
        $headers->set('X-Content-Type-Options', 'nosniff');
        $headers->set('Referrer-Policy', 'same-origin');
    }
}
