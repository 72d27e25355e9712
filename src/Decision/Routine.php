<?php

declare(strict_types=1);

namespace App\Decision;

use App\Account\User;
use App\Study\InStudy;
use App\Study\Study;
use App\Trial\Trial;
use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;

/**
 * A scoring that is done again: source, model, matching, output and export. It runs as its owner.
 *
 * @phpstan-type Last array{at: string, failed: bool, says: string, warnings: list<string>, scoring: ?int, decision: ?int, tableId: ?int,
 * mean: ?float, spread: ?float, scored: int}
 */
#[ORM\Entity]
class Routine implements InStudy
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column]
    private ?int $id = null;

    #[ORM\Version, ORM\Column(type: 'integer')]
    private int $version = 1;

    /** @var array<string, mixed> */
    #[ORM\Column(type: Types::JSON)]
    private array $plan;

    /** @var Last|null what its last run came to */
    #[ORM\Column(type: Types::JSON, nullable: true)]
    private ?array $last = null;

    #[ORM\Column(type: Types::DATETIME_IMMUTABLE, nullable: true)]
    private ?\DateTimeImmutable $nextAt = null;

    #[ORM\Column(type: Types::DATETIME_IMMUTABLE)]
    private \DateTimeImmutable $createdAt;

    public function __construct(
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private Study $study,
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private User $user,
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private Trial $trial,
        #[ORM\Column(length: 120)]
        private string $name,
        RoutinePlan $plan,
    ) {
        $this->createdAt = new \DateTimeImmutable();
        $this->plan = $plan->toArray();
        $this->nextAt = $plan->next($this->createdAt);
    }

    public function id(): int
    {
        return $this->id ?? throw new \LogicException('Not stored yet.');
    }

    public function version(): int
    {
        return $this->version;
    }

    public function study(): Study
    {
        return $this->study;
    }

    public function user(): User
    {
        return $this->user;
    }

    public function trial(): Trial
    {
        return $this->trial;
    }

    public function name(): string
    {
        return $this->name;
    }

    public function plan(): RoutinePlan
    {
        return RoutinePlan::fromArray($this->plan);
    }

    public function createdAt(): \DateTimeImmutable
    {
        return $this->createdAt;
    }

    public function nextAt(): ?\DateTimeImmutable
    {
        return $this->nextAt;
    }

    /** The time that it is due next: whoever starts it moves it on, so that it is not started twice. */
    public function moveOn(\DateTimeImmutable $now): void
    {
        $this->nextAt = $this->plan()->next($now);
    }

    /** @return Last|null */
    public function last(): ?array
    {
        return $this->last;
    }

    /** @param Last $last */
    public function keep(array $last): void
    {
        $this->last = $last;
    }
}
