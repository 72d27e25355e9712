<?php

declare(strict_types=1);

namespace App\Search;

use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;
use Dokimos\Core\Task\Answers;

/** One setting that a search weighed; unique by its place, so that a piece that runs twice counts once. */
#[ORM\Entity]
#[ORM\UniqueConstraint(columns: ['search_id', 'place'])]
class SearchTry
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column]
    private ?int $id = null;

    /** @var string|resource|null answers for the open rows, packed as float32 and compressed; NAN = none */
    #[ORM\Column(type: Types::BLOB, nullable: true)]
    private $answers;

    #[ORM\Column]
    private int $width = 1;

    /**
     * @param int                  $place    in the list of what the search weighs
     * @param array<string, mixed> $settings
     * @param ?float               $value    mean of the figure over the folds; null when it could not be fitted
     * @param ?string              $why      why it could not be fitted
     * @param ?int                 $reading  leaves, rules or terms of its fits, at most
     */
    public function __construct(
        #[ORM\ManyToOne, ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private Search $search,
        #[ORM\Column]
        private int $place,
        #[ORM\Column]
        private int $space,
        #[ORM\Column]
        private int $variant,
        #[ORM\Column]
        private int $choice,
        #[ORM\Column(type: Types::JSON)]
        private array $settings,
        #[ORM\Column(nullable: true)]
        private ?float $value,
        #[ORM\Column(nullable: true)]
        private ?float $low,
        #[ORM\Column(nullable: true)]
        private ?float $high,
        #[ORM\Column]
        private float $seconds,
        #[ORM\Column(length: 400, nullable: true)]
        private ?string $why,
        ?Answers $answers,
        #[ORM\Column(nullable: true)]
        private ?int $reading = null,
    ) {
        $this->width = $answers->width ?? 1;
        $this->answers = null === $answers ? null : (string) gzdeflate([] === $answers->values ? '' : pack('g*', ...$answers->values), 1);
    }

    public function id(): int
    {
        return $this->id ?? throw new \LogicException('Not stored yet.');
    }

    public function search(): Search
    {
        return $this->search;
    }

    public function place(): int
    {
        return $this->place;
    }

    /** Which learner with its settings: the place in the plan. */
    public function space(): int
    {
        return $this->space;
    }

    public function variant(): int
    {
        return $this->variant;
    }

    public function choice(): int
    {
        return $this->choice;
    }

    /** @return array<string, mixed> */
    public function settings(): array
    {
        return $this->settings;
    }

    public function value(): ?float
    {
        return $this->value;
    }

    public function low(): ?float
    {
        return $this->low;
    }

    public function high(): ?float
    {
        return $this->high;
    }

    public function seconds(): float
    {
        return $this->seconds;
    }

    public function reading(): ?int
    {
        return $this->reading;
    }

    public function why(): ?string
    {
        return $this->why;
    }

    /** Of the open rows, each by a model that had not seen it. */
    public function answers(): ?Answers
    {
        $kept = $this->answers;
        if (\is_resource($kept)) {
            rewind($kept);
            $kept = stream_get_contents($kept);
        }
        if (!\is_string($kept)) {
            return null;
        }
        /** @var array<int, float> $values */
        $values = unpack('g*', (string) gzinflate($kept)) ?: [];

        return new Answers(array_values($values), $this->width);
    }
}
