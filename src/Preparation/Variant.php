<?php

declare(strict_types=1);

namespace App\Preparation;

use App\Study\InStudy;
use App\Study\Study;
use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;
use Dokimos\Core\Stamp;

/** One way of preparing the table; several live side by side. */
#[ORM\Entity]
class Variant implements InStudy
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column]
    private ?int $id = null;

    #[ORM\Version, ORM\Column(type: 'integer')]
    private int $version = 1;

    /** @var list<array<string, mixed>> */
    #[ORM\Column(type: Types::JSON)]
    private array $steps = [];

    public function __construct(
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private Study $study,
        #[ORM\Column(length: 1)]
        private string $letter,
        #[ORM\Column(length: 120)]
        private string $name,
    ) {
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

    public function letter(): string
    {
        return $this->letter;
    }

    public function name(): string
    {
        return $this->name;
    }

    public function rename(string $name): void
    {
        $this->name = $name;
    }

    /** @return list<array<string, mixed>> as given by the analyst: settings, "note" and "off" */
    public function steps(): array
    {
        return $this->steps;
    }

    /** @param list<array<string, mixed>> $steps */
    public function changeSteps(array $steps): void
    {
        $this->steps = $steps;
    }

    /** Names and notes do not count: changing them makes nothing stale. */
    public function hash(): string
    {
        return self::hashOf($this->steps);
    }

    /** @param list<array<string, mixed>> $steps */
    public static function hashOf(array $steps): string
    {
        $bare = array_map(static function (array $s): array {
            // Settings are the same in whatever order they are written.
            ksort($s);

            return array_diff_key($s, ['note' => 1, 'off' => 1]);
        }, array_filter($steps, static fn (array $s) => true !== ($s['off'] ?? false)));

        return Stamp::of(array_values($bare));
    }
}
