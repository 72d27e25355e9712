<?php

declare(strict_types=1);

namespace App\Decision;

use Dokimos\Core\Act\ActionList;
use Dokimos\Core\Act\Capacity;
use Dokimos\Core\Act\Chosen;
use Dokimos\Core\Act\ClassTerms;
use Dokimos\Core\Act\EventTerms;
use Dokimos\Core\Act\Tiers;

/** A decision worked out over its scored table. */
final readonly class Listed
{
    /**
     * @param list<float> $chances of the event by record, or of the likeliest class; NAN = not scored
     * @param list<float> $values  NAN = not known
     * @param int         $unknown records that have an answer and no value
     */
    public function __construct(
        public EventTerms|ClassTerms $terms,
        public ActionList $list,
        public Capacity $capacity,
        public Tiers $tiers,
        public array $chances,
        public array $values,
        public Chosen $chosen,
        public int $unknown,
    ) {
    }

    /** From 1 to 4, by its chance and what it is worth. */
    public function rank(int $row): int
    {
        return $this->tiers->rank(...$this->tiers->of($this->chances[$row], $this->values[$row]));
    }
}
