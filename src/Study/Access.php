<?php

declare(strict_types=1);

namespace App\Study;

use App\Account\SignedIn;
use App\Account\User;
use App\Http\Problem;
use Doctrine\ORM\EntityManagerInterface;

/** The one door to studies and everything in them: asks who it is and whether they are a member. */
final readonly class Access
{
    public function __construct(private EntityManagerInterface $entities, private SignedIn $signedIn)
    {
    }

    public function user(): User
    {
        return $this->signedIn->user();
    }

    public function study(int $id, Role $needed = Role::Reader, bool $evenDeleted = false): Study
    {
        $study = $this->entities->find(Study::class, $id);
        if (null === $study || $study->isDeleted() && !$evenDeleted) {
            throw Problem::notFound('study');
        }
        $this->require($study, $needed);

        return $study;
    }

    /**
     * Anything that belongs to a study.
     *
     * @template T of InStudy
     *
     * @param class-string<T> $class
     *
     * @return T
     */
    public function find(string $class, int $id, string $what, Role $needed = Role::Reader): InStudy
    {
        $thing = $this->entities->find($class, $id);
        if (null === $thing || $thing->study()->isDeleted()) {
            throw Problem::notFound($what);
        }
        $this->require($thing->study(), $needed, $what);

        return $thing;
    }

    private function require(Study $study, Role $needed, string $what = 'study'): void
    {
        $member = $this->entities->getRepository(StudyMember::class)->findOneBy(['study' => $study, 'user' => $this->user()]);
        if (null === $member) {
            throw Problem::notFound($what);
        }
        if (!$member->role()->covers($needed)) {
            throw new Problem(403, \sprintf('You are a %s of this study; only an %s may do this.', $member->role()->value, $needed->value));
        }
    }

    /** @return list<StudyMember> with the studies of the signed-in user, deleted ones left out */
    public function memberships(): array
    {
        return $this->members('s.deletedAt IS NULL');
    }

    /** @return list<StudyMember> with the deleted studies that the signed-in user owns */
    public function deleted(): array
    {
        return array_values(array_filter($this->members('s.deletedAt IS NOT NULL'), static fn (StudyMember $m) => Role::Owner === $m->role()));
    }

    /** @return list<StudyMember> */
    private function members(string $condition): array
    {
        /** @var list<StudyMember> $members */
        $members = $this->entities->createQuery('SELECT m, s FROM App\Study\StudyMember m JOIN m.study s WHERE m.user = :user AND '.$condition.' ORDER BY s.id')
            ->setParameter('user', $this->user())->getResult();

        return $members;
    }
}
