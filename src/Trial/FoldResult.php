<?php

declare(strict_types=1);

namespace App\Trial;

use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;
use Dokimos\Core\Task\Answers;

/** What one fold of a trial predicted; unique by its key, so that a piece that runs twice counts once. */
#[ORM\Entity]
#[ORM\UniqueConstraint(columns: ['trial_id', 'piece_key'])]
class FoldResult
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column]
    private ?int $id = null;

    /** @param array<string, mixed> $figures */
    public function __construct(
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private Trial $trial,
        #[ORM\Column(name: 'piece_key', length: 40)]
        private string $key,
        #[ORM\Column(type: Types::JSON)]
        private array $figures,
        #[ORM\Column(type: Types::TEXT)]
        private string $chances,
    ) {
    }

    public function id(): ?int
    {
        return $this->id;
    }

    public function trial(): Trial
    {
        return $this->trial;
    }

    public function key(): string
    {
        return $this->key;
    }

    /** @return array<string, mixed> */
    public function figures(): array
    {
        return $this->figures;
    }

    public static function pack(Answers $answers): string
    {
        return base64_encode([] === $answers->values ? '' : pack('e*', ...$answers->values));
    }

    /** Answers for the fold's validation rows, in their order. */
    public function answers(int $width): Answers
    {
        /** @var array<int, float> $values */
        $values = unpack('e*', (string) base64_decode($this->chances, true)) ?: [];

        return new Answers(array_values($values), $width);
    }
}
