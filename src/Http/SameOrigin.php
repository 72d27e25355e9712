<?php

declare(strict_types=1);

namespace App\Http;

use Symfony\Component\EventDispatcher\Attribute\AsEventListener;
use Symfony\Component\HttpKernel\Event\RequestEvent;

/** Refuses changing requests that another site makes a browser send; the cookie being SameSite=Strict is the first guard, this the second. */
final class SameOrigin
{
    #[AsEventListener(priority: 256)]
    public function __invoke(RequestEvent $event): void
    {
        $request = $event->getRequest();
        if ($request->isMethodSafe() || !str_starts_with($request->getPathInfo(), '/api')) {
            return;
        }
        $origin = $request->headers->get('Origin');
        $site = $request->headers->get('Sec-Fetch-Site');
        if (null !== $origin && $origin !== $request->getSchemeAndHttpHost() || null !== $site && !\in_array($site, ['same-origin', 'none'], true)) {
            $event->setResponse(Problem::response(403, 'This request came from another site and was refused.'));
        }
    }
}
