<?php

declare(strict_types=1);

namespace App\Account;

use App\Http\Problem;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Security\Core\Authentication\Token\TokenInterface;
use Symfony\Component\Security\Core\Exception\AuthenticationException;
use Symfony\Component\Security\Core\Exception\CustomUserMessageAccountStatusException;
use Symfony\Component\Security\Core\Exception\TooManyLoginAttemptsAuthenticationException;
use Symfony\Component\Security\Core\Exception\UserNotFoundException;
use Symfony\Component\Security\Http\Authentication\AuthenticationFailureHandlerInterface;
use Symfony\Component\Security\Http\Authentication\AuthenticationSuccessHandlerInterface;
use Symfony\Component\Security\Http\EntryPoint\AuthenticationEntryPointInterface;

/** What the sign-in answers; never whether a name exists. */
final readonly class SignInAnswer implements AuthenticationSuccessHandlerInterface, AuthenticationFailureHandlerInterface, AuthenticationEntryPointInterface
{
    public function __construct(private Accounts $accounts, private Audit $audit)
    {
    }

    public function onAuthenticationSuccess(Request $request, TokenInterface $token): Response
    {
        $user = $token->getUser();
        \assert($user instanceof User);
        $this->audit->note($user->login(), 'signed in');

        return new JsonResponse(SessionView::of($user));
    }

    public function onAuthenticationFailure(Request $request, AuthenticationException $exception): Response
    {
        if ($exception->getPrevious() instanceof UserNotFoundException) {
            // A name that is none takes as long as one that is.
            $this->accounts->checkNobody((string) ($request->getPayload()->get('password') ?? ''));
        }

        $login = $request->getPayload()->get('login');
        $this->audit->note(
            \is_scalar($login) ? (string) $login : '',
            $exception instanceof TooManyLoginAttemptsAuthenticationException
                ? 'was kept waiting after too many attempts'
                : 'was not let in',
        );

        return match (true) {
            \in_array(
                $exception->getMessageKey(),
                [SecondStep::WANTED, SecondStep::WRONG],
                true,
            ) => Problem::response(401, $exception->getMessageKey(), 'code'),
            $exception instanceof TooManyLoginAttemptsAuthenticationException => Problem::response(
                429,
                'Too many attempts. Wait a minute, then try again.',
            ),
            $exception instanceof CustomUserMessageAccountStatusException => Problem::response(403, $exception->getMessageKey()),
            default => Problem::response(401, 'The name or the password is not right.', 'password'),
        };
    }

    public function start(Request $request, ?AuthenticationException $authException = null): Response
    {
        return Problem::response(401, 'Sign in first.');
    }
}
