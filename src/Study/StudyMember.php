<?php

declare(strict_types=1);

namespace App\Study;

use App\Account\User;
use Doctrine\ORM\Mapping as ORM;

/** Access of one person to one study. */
#[ORM\Entity]
#[ORM\UniqueConstraint(columns: ['study_id', 'user_id'])]
class StudyMember
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column]
    private ?int $id = null;

    public function __construct(
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private Study $study,
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private User $user,
        #[ORM\Column(enumType: Role::class)]
        private Role $role,
    ) {
    }

    public function id(): ?int
    {
        return $this->id;
    }

    public function study(): Study
    {
        return $this->study;
    }

    public function user(): User
    {
        return $this->user;
    }

    public function role(): Role
    {
        return $this->role;
    }
}
