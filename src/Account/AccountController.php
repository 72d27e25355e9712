<?php

declare(strict_types=1);

namespace App\Account;

use App\Http\Problem;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Bundle\SecurityBundle\Security;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/** Signing in and the first account. */
#[OA\Tag('Account')]
final readonly class AccountController
{
    public function __construct(private SignedIn $signedIn, private Accounts $accounts, private Security $security, private bool $demo)
    {
    }

    #[Route('/api/sign-in', methods: ['POST'])]
    #[OA\RequestBody(content: new OA\JsonContent(properties: [new OA\Property('login', type: 'string'), new OA\Property('password', type: 'string'), new OA\Property('_remember_me', type: 'boolean'), new OA\Property('code', description: 'of the second step', type: 'string')], type: 'object', required: ['login', 'password']))]
    #[OA\Response(response: 200, description: 'Signed in', content: new Model(type: SessionView::class))]
    public function signIn(): JsonResponse
    {
        // The firewall answers this address; only a body that is not JSON gets here.
        throw new Problem(400, 'Send the name and the password as JSON.');
    }

    #[Route('/api/session', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'Who is signed in', content: new Model(type: SessionView::class))]
    public function session(): JsonResponse
    {
        return new JsonResponse(SessionView::of($this->signedIn->user()));
    }

    #[Route('/api/setup', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'Whether the owner\'s account is still to be made', content: new Model(type: SetupView::class))]
    public function state(): JsonResponse
    {
        return new JsonResponse(new SetupView($this->accounts->isEmpty(), $this->demo));
    }

    #[Route('/api/setup', methods: ['POST'])]
    #[OA\Response(response: 201, description: 'The owner\'s account', content: new Model(type: SessionView::class))]
    public function setup(#[MapRequestPayload] SetupRequest $request): JsonResponse
    {
        $user = $this->accounts->createOwner($request);
        $this->security->login($user, 'json_login', 'main');

        return new JsonResponse(SessionView::of($user), 201);
    }
}
