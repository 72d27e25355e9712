<?php

declare(strict_types=1);

namespace App\Account;

use Symfony\Component\EventDispatcher\Attribute\AsEventListener;
use Symfony\Component\HttpFoundation\RequestStack;
use Symfony\Component\Security\Core\Exception\CustomUserMessageAuthenticationException;
use Symfony\Component\Security\Http\Authenticator\Passport\Credentials\PasswordCredentials;
use Symfony\Component\Security\Http\Event\CheckPassportEvent;

/** Asks for the second step once the password was right; whoever has a wrong password is not told that there is one. */
final readonly class SecondStep
{
    public const WANTED = 'Type the code that your app shows now.';
    public const WRONG = 'This code does not open. Wait for the next one, or use one of your spare codes.';

    public function __construct(private SecondFactor $factor, private RequestStack $requests)
    {
    }

    // After the password is checked.
    #[AsEventListener(priority: -64)]
    public function __invoke(CheckPassportEvent $event): void
    {
        $user = $event->getPassport()->getUser();
        if (!$user instanceof User || !$user->hasSecondFactor() || !$event->getPassport()->hasBadge(PasswordCredentials::class)) {
            return;
        }
        $code = $this->requests->getMainRequest()?->getPayload()->get('code');
        $code = \is_scalar($code) ? trim((string) $code) : '';
        if ('' === $code || !$this->factor->opens($user, $code)) {
            throw new CustomUserMessageAuthenticationException('' === $code ? self::WANTED : self::WRONG);
        }
    }
}
