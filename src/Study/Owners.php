<?php

declare(strict_types=1);

namespace App\Study;

use App\Account\User;
use App\Http\Problem;
use Doctrine\ORM\EntityManagerInterface;

/** Who may do on the command line what only an owner does. */
final readonly class Owners
{
    public function __construct(private EntityManagerInterface $entities)
    {
    }

    /** @throws Problem where nobody of this login owns the study */
    public function named(Study $study, ?string $login): User
    {
        $owners = $this->entities->getRepository(StudyMember::class)->findBy(['study' => $study, 'role' => Role::Owner], ['id' => 'ASC']);
        foreach ($owners as $member) {
            if (null === $login || $member->user()->login() === $login) {
                return $member->user();
            }
        }

        throw new Problem(403, null === $login ? 'The study has no owner.' : \sprintf('%s does not own this study.', $login));
    }
}
