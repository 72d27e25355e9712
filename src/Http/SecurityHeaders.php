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
        $headers = $event->getResponse()->headers;
        $headers->has('Content-Security-Policy') || self::put($headers);
    }

    /** @param string $nonce of the styles that the front end makes while it runs; drawn for each page */
    public static function put(ResponseHeaderBag $headers, string $nonce = ''): void
    {
        $headers->set('Content-Security-Policy', \sprintf("default-src 'self'; style-src 'self'%s; script-src 'self'; object-src 'none'; img-src 'self' data: blob:; font-src 'self'; connect-src 'self'; frame-ancestors 'none'; base-uri 'self'; form-action 'self'", '' === $nonce ? '' : " 'nonce-$nonce'"));
        $headers->set('X-Content-Type-Options', 'nosniff');
        $headers->set('Referrer-Policy', 'same-origin');
    }
}
