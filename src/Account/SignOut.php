<?php

declare(strict_types=1);

namespace App\Account;

use Doctrine\ORM\EntityManagerInterface;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Security\Http\Event\LogoutEvent;

/** Signing out ends staying signed in, on every device: a copy of the cookie is worth nothing afterwards. */
final readonly class SignOut
{
    public function __construct(private EntityManagerInterface $entities)
    {
    }

    #[AsEventListener(priority: 128)]
    public function __invoke(LogoutEvent $event): void
    {
        $user = $event->getToken()?->getUser();
        if ($user instanceof User) {
            $known = $this->entities->find(User::class, $user->id());
            $known?->endStays();
            $this->entities->flush();
        }
        // No redirect: an address made from what the request calls itself could lead elsewhere.
        $event->setResponse(new Response(null, 204));
    }
}
