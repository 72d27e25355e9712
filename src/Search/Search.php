<?php

declare(strict_types=1);

namespace App\Search;

use App\Question\Question;
use App\Study\InStudy;
use App\Study\Study;
use App\Trial\Trial;
use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;

/** Many settings weighed side by side; the best of them becomes a trial. */
#[ORM\Entity]
#[ORM\UniqueConstraint(columns: ['study_id', 'number'])]
class Search implements InStudy
{
    public const SETTINGS = 'settings';
    public const GUIDED = 'guided';
    public const RUNNING = 'running';
    public const DONE = 'done';
    public const STOPPED = 'stopped';
    public const FAILED = 'failed';

    #[ORM\Id, ORM\GeneratedValue, ORM\Column]
    private ?int $id = null;

    #[ORM\Column(length: 20)]
    private string $state = self::RUNNING;

    #[ORM\Column(length: 400, nullable: true)]
    private ?string $failure = null;

    /** @var array<string, mixed>|null what came of it, once done: Outcome */
    #[ORM\Column(type: Types::JSON, nullable: true)]
    private ?array $result = null;

    /** The best one, as a trial. */
    #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: true, onDelete: 'SET NULL')]
    private ?Trial $trial = null;

    #[ORM\Column(type: Types::DATETIME_IMMUTABLE)]
    private \DateTimeImmutable $createdAt;

    /**
     * @param string               $hash   of the question when it began
     * @param string               $figure key of the figure that it runs for
     * @param array<string, mixed> $asked  what it weighs: SearchPlan
     * @param int                  $tries  how many settings that are
     * @param string               $kind   whether the settings were given, or Dokimos chooses them
     */
    public function __construct(
        // A question has the id of its study.
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(name: 'study_id', referencedColumnName: 'id', nullable: false, onDelete: 'CASCADE')]
        private Question $question,
        #[ORM\Column]
        private int $number,
        #[ORM\Column(length: 32)]
        private string $hash,
        #[ORM\Column(length: 40)]
        private string $figure,
        #[ORM\Column(type: Types::JSON)]
        private array $asked,
        #[ORM\Column]
        private int $tries,
        #[ORM\Column(length: 10, options: ['default' => self::SETTINGS])]
        private string $kind = self::SETTINGS,
    ) {
        $this->createdAt = new \DateTimeImmutable();
    }

    public function id(): int
    {
        return $this->id ?? throw new \LogicException('Not stored yet.');
    }

    public function study(): Study
    {
        return $this->question->study();
    }

    public function question(): Question
    {
        return $this->question;
    }

    public function number(): int
    {
        return $this->number;
    }

    public function figure(): string
    {
        return $this->figure;
    }

    /** @return array<string, mixed> */
    public function asked(): array
    {
        return $this->asked;
    }

    public function tries(): int
    {
        return $this->tries;
    }

    public function state(): string
    {
        return $this->state;
    }

    public function failure(): ?string
    {
        return $this->failure;
    }

    /** @return array<string, mixed>|null */
    public function result(): ?array
    {
        return $this->result;
    }

    public function trial(): ?Trial
    {
        return $this->trial;
    }

    public function createdAt(): \DateTimeImmutable
    {
        return $this->createdAt;
    }

    public function isGuided(): bool
    {
        return self::GUIDED === $this->kind;
    }

    /** @param array<string, mixed> $asked what is asked, with where it stands */
    public function stand(array $asked, int $tries): void
    {
        $this->asked = $asked;
        $this->tries = $tries;
    }

    /** Whether the table, the target or the split plan have changed since: then it cannot go on, and says nothing of what is asked now. */
    public function isStale(): bool
    {
        return $this->hash !== $this->question->hash();
    }

    /** @param array<string, mixed> $asked */
    public function goOn(array $asked, int $tries): void
    {
        $this->asked = $asked;
        $this->tries = $tries;
        $this->state = self::RUNNING;
        $this->failure = null;
    }

    /** @param array<string, mixed> $result */
    public function finish(array $result): void
    {
        $this->state = self::DONE;
        $this->result = $result;
    }

    public function hand(Trial $trial): void
    {
        $this->trial = $trial;
    }

    public function stop(?string $failure): void
    {
        $this->state = null === $failure ? self::STOPPED : self::FAILED;
        $this->failure = null === $failure ? null : mb_substr($failure, 0, 400);
    }
}
