<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Tree;

use Dokimos\Core\Design\Codes;
use Dokimos\Core\Design\RowCodes;

/**
 * Many trees on the same codes (Design\Codes), packed into flat lists of one entry per node, so that all rows walk through one tree at a
 * time. The left child of a node is the next node.
 */
final class Grove
{
    private const LEAF = 0xFFFF;
    private const SET = 2;
    /** In the word of a node, from the lowest bits: the column, whether a set decides, the least code, the cut or set, how far the right child is. */
    private const COLUMN = 0x3FFF;
    private const IS_SET = 0x4000;

    /** @var list<int> where each tree begins */
    public array $roots = [];
    /** @var list<int> -1 = leaf */
    private array $feature = [];
    /** @var list<int> codes up to it go left; with a set of levels its place among the sets */
    private array $cut = [];
    /** @var list<int> the least code that goes left: 0 = what is missing does too, 1 = it does not; 2 = a set decides */
    private array $least = [];
    /** @var array<int, int> */
    private array $right = [];
    /** @var list<float> as many per node as a leaf has values */
    private array $value = [];
    /** @var list<array<int, true>> */
    private array $sets = [];

    /** @var list<int> of finished trees */
    private array $words = [];

    /** @var list<int> columns that are asked about: gone through once, since single records are answered one by one */
    private array $used = [];
    /** Nodes there were then. */
    private int $known = 0;

    /** @param int $width values of a leaf: one per class for a forest of several, else one */
    public function __construct(public readonly int $width = 1)
    {
    }

    /** @param \Closure(list<float>): array<float> $value from the counts of a leaf */
    public function plant(Grown $tree, \Closure $value): void
    {
        $base = \count($this->feature);
        $this->roots[] = $base;
        foreach ($tree->divisions as $i => $by) {
            if (null === $by) {
                $this->leaf($value($tree->counts[$i]));
                continue;
            }
            $this->node($by, $base + $tree->right[$i]);
        }
    }

    /** Begins a tree whose nodes are added one by one, in pre-order. */
    public function begin(): void
    {
        $this->roots[] = \count($this->feature);
    }

    /** @param array<float> $values */
    public function leaf(array $values): int
    {
        $this->feature[] = -1;
        $this->cut[] = $this->least[] = $this->right[] = 0;
        foreach ($values as $v) {
            $this->value[] = $v;
        }

        return \count($this->feature) - 1;
    }

    public function node(Division $by, int $right = 0): int
    {
        $this->feature[] = $by->feature;
        if (null === $by->left) {
            $this->cut[] = min($by->cut, self::LEAF);
            $this->least[] = $by->missingLeft ? 0 : 1;
        } else {
            $set = array_fill_keys($by->left, true);
            if ($by->missingLeft) {
                $set[0] = true;
            }
            $this->cut[] = \count($this->sets);
            $this->least[] = self::SET;
            $this->sets[] = $set;
        }
        $this->right[] = $right;
        for ($k = 0; $k < $this->width; ++$k) {
            $this->value[] = 0.0;
        }

        return \count($this->feature) - 1;
    }

    public function turnRight(int $node, int $right): void
    {
        $this->right[$node] = $right;
    }

    /** Keeps the first trees only: those after the best round of boosting are of no use. */
    public function keep(int $trees): void
    {
        if ($trees >= \count($this->roots)) {
            return;
        }
        $nodes = $this->roots[$trees];
        $this->roots = \array_slice($this->roots, 0, $trees);
        $this->feature = \array_slice($this->feature, 0, $nodes);
        $this->cut = \array_slice($this->cut, 0, $nodes);
        $this->least = \array_slice($this->least, 0, $nodes);
        $this->right = \array_slice($this->right, 0, $nodes);
        $this->value = \array_slice($this->value, 0, $nodes * $this->width);
        $this->words = \array_slice($this->words, 0, $nodes);
        $this->known = 0;
    }

    /**
     * Adds what some trees say to sums. Hot loop: all rows through one tree, then the next.
     *
     * @param list<float> $sums  one per row
     * @param int         $class which of the values of a leaf
     * @param ?list<int>  $rows  places of the rows wanted; null = all
     *
     * @return list<float> as long as given
     */
    public function add(RowCodes $codes, array $sums, int $class = 0, int $from = 0, ?int $to = null, int $every = 1, ?array $rows = null): array
    {
        $words = $this->words();
        $flat = $codes->codes;
        $stride = $codes->stride;
        $value = $this->value;
        $sets = $this->sets;
        $width = $this->width;
        $rows ??= array_keys($sums);
        $to ??= \count($this->roots);
        for ($t = $from; $t < $to; $t += $every) {
            $root = $this->roots[$t];
            foreach ($rows as $i) {
                $at = $i * $stride;
                $node = $root;
                while (($w = $words[$node]) >= 0) {
                    $k = $flat[$at + ($w & self::COLUMN)];
                    if (($w & self::IS_SET) === 0) {
                        // What is missing has code 0: one less is larger than any cut.
                        $node += ($k - ($w >> 15 & 1) & 0xFFFF) <= ($w >> 16 & 0xFFFFFF) ? 1 : $w >> 40;
                    } else {
                        $node += isset($sets[$w >> 16 & 0xFFFFFF][$k]) ? 1 : $w >> 40;
                    }
                }
                $sums[$i] += $value[$node * $width + $class];
            }
        }

        return array_values($sums);
    }

    /** @return list<int> per node: where a row is looked up next, in one number; -1 for a leaf */
    private function words(): array
    {
        for ($i = \count($this->words), $n = \count($this->feature); $i < $n; ++$i) {
            $f = $this->feature[$i];
            $least = $this->least[$i];
            $this->words[] = $f < 0 ? -1 : $f | (self::SET === $least ? self::IS_SET | $this->cut[$i] << 16 : $least << 15 | ($this->cut[$i] - $least) << 16) | ($this->right[$i] - $i) << 40;
        }

        return $this->words;
    }

    public function leaves(): int
    {
        return \count(array_filter($this->feature, static fn (int $f): bool => $f < 0));
    }

    /**
     * Trees as they are read, asking about cells and not codes.
     *
     * @param Codes $codes what they were grown on
     * @param int   $class which of the values of a leaf
     * @param float $times what a leaf's value is multiplied by
     *
     * @return list<OpenTree>
     */
    public function open(Codes $codes, int $class, float $times): array
    {
        $out = [];
        foreach ($this->roots as $t => $root) {
            $nodes = [];
            for ($i = $root, $end = $this->roots[$t + 1] ?? \count($this->feature); $i < $end; ++$i) {
                $nodes[] = $this->opened($codes, $i, $root, $this->value[$i * $this->width + $class] * $times);
            }
            $out[] = new OpenTree($nodes);
        }

        return $out;
    }

    /**
     * @return array{column: ?string, threshold: ?float, levels: array<array-key, bool>|null, missing: bool, left: int, right: int,
     *     value: float, cover: float, other?: bool}
     */
    private function opened(Codes $codes, int $node, int $root, float $value): array
    {
        $f = $this->feature[$node];
        if ($f < 0) {
            return [
                'column' => null, 'threshold' => null, 'levels' => null, 'missing' => false, 'left' => -1, 'right' => -1,
                'value' => $value, 'cover' => 0.0,
            ];
        }
        [$least, $cut] = [$this->least[$node], $this->cut[$node]];
        $left = fn (int $code): bool => self::SET === $least ? isset($this->sets[$cut][$code]) : $code >= $least && $code <= $cut;
        $scale = $codes->scales[$f];
        $levels = isset($scale['levels']) ? [] : null;
        foreach ($scale['levels'] ?? [] as $k => $level) {
            $levels[$level] = $left($k + 1);
        }
        $others = true === ($scale['other'] ?? false) ? \count($scale['levels'] ?? []) + 1 : 0;

        return [
            'column' => $codes->columns[$f],
            // Code k holds what is at most the cut of place k - 1; beyond the last cut everything goes left.
            'threshold' => null !== $levels ? null : ($cut < 1 ? -\INF : $scale['cuts'][$cut - 1] ?? \INF),
            'levels' => $levels,
            'missing' => $left(0),
            'left' => $node + 1 - $root,
            'right' => $this->right[$node] - $root,
            'value' => 0.0,
            'cover' => 0.0,
            'other' => $left($others),
        ];
    }

    /** @return list<int> columns that any tree asks about, ascending */
    public function features(): array
    {
        if ($this->known !== $nodes = \count($this->feature)) {
            $seen = [];
            foreach ($this->feature as $f) {
                $seen[$f] = true;
            }
            unset($seen[-1]);
            ksort($seen);
            [$this->known, $this->used] = [$nodes, array_keys($seen)];
        }

        return $this->used;
    }

    /** @return array<string, mixed> packed little-endian, deflated, base64 */
    public function toArray(): array
    {
        $sets = array_map(static function (array $set): string {
            $bits = array_fill(0, 32, 0);
            foreach (array_keys($set) as $k) {
                $bits[$k >> 3] |= 1 << ($k & 7);
            }

            return pack('C*', ...$bits);
        }, $this->sets);

        return [
            'width' => $this->width,
            'roots' => self::packed('V', $this->roots),
            'feature' => self::packed('v', array_map(static fn (int $f) => $f < 0 ? self::LEAF : $f, $this->feature)),
            'cut' => self::packed('v', $this->cut),
            'least' => self::packed('C', $this->least),
            'right' => self::packed('V', $this->right),
            'value' => self::packed('e', $this->value),
            'sets' => base64_encode(implode('', $sets)),
        ];
    }

    /**
     * The same without anything to unpack: lists that a cache of compiled code can share between requests.
     *
     * @param array<string, mixed> $data as toArray() gives it
     *
     * @return array<string, mixed>
     */
    public static function unpacked(array $data): array
    {
        $grove = self::fromArray($data);

        $grove->words();
        $grove->features();
        /** @var array<string, mixed> $all */
        $all = get_object_vars($grove);

        return $all;
    }

    /** @param array<string, mixed> $data */
    public static function fromArray(array $data): self
    {
        if (isset($data['words'])) {
            /**
             * @var array{
             *     width: int, roots: list<int>, feature: list<int>, cut: list<int>, least: list<int>, right: array<int, int>,
             *     value: list<float>, sets: list<array<int, true>>, words: list<int>, used?: list<int>, known?: int,
             * } $data
             */
            $grove = new self($data['width']);
            foreach (['roots', 'feature', 'cut', 'least', 'right', 'value', 'sets', 'words', 'used', 'known'] as $name) {
                $grove->{$name} = $data[$name] ?? $grove->{$name};
            }

            return $grove;
        }
        /** @var array{width: int, roots: string, feature: string, cut: string, least: string, right: string, value: string, sets: string} $data */
        $grove = new self($data['width']);
        $grove->roots = self::whole('V', $data['roots']);
        $grove->feature = array_map(static fn (int $f) => self::LEAF === $f ? -1 : $f, self::whole('v', $data['feature']));
        $grove->cut = self::whole('v', $data['cut']);
        $grove->least = self::whole('C', $data['least']);
        $grove->right = self::whole('V', $data['right']);
        $grove->value = array_map(floatval(...), self::whole('e', $data['value']));
        foreach ('' === $data['sets'] ? [] : str_split((string) base64_decode($data['sets'], true), 32) as $bits) {
            $set = [];
            for ($k = 0; $k < 256; ++$k) {
                if (\ord($bits[$k >> 3]) >> ($k & 7) & 1) {
                    $set[$k] = true;
                }
            }
            $grove->sets[] = $set;
        }

        return $grove;
    }

    /** @param array<int|float> $list */
    private static function packed(string $form, array $list): string
    {
        $out = '';
        foreach (array_chunk($list, 4096) as $part) {
            $out .= pack($form.'*', ...$part);
        }

        return base64_encode((string) gzdeflate($out, 6));
    }

    /** @return list<int> */
    private static function whole(string $form, string $packed): array
    {
        /** @var list<int> $list floats for "e", which the caller turns */
        $list = array_values(unpack($form.'*', (string) gzinflate((string) base64_decode($packed, true))) ?: []);

        return $list;
    }
}
