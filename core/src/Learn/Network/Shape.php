<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Network;

use Dokimos\Core\Random;

/**
 * Where the parameters of a network lie in one flat list: embeddings of categories of many values first, then layer by layer the weights,
 * a row for each incoming unit, and the biases.
 */
final readonly class Shape
{
    /** @var list<int> units by layer, inputs first */
    public array $sizes;
    /** @var list<int> where the weights of a layer begin */
    public array $weightsAt;
    /** @var list<int> where its biases begin */
    public array $biasesAt;
    /** @var list<int> where the units of a layer begin among all */
    public array $unitsAt;
    /** @var list<int> where an embedding begins */
    public array $embedsAt;
    /** @var list<int> the first input unit that an embedding fills */
    public array $embedsInto;
    public int $parameters;
    public int $units;

    /**
     * @param int                   $direct inputs that come as they are
     * @param list<array{int, int}> $embeds values and numbers of each embedding
     * @param list<int>             $hidden units of each hidden layer
     */
    public function __construct(public int $direct, public array $embeds, public array $hidden, public int $outputs)
    {
        $at = 0;
        $into = $direct;
        $embedsAt = $embedsInto = [];
        foreach ($embeds as [$values, $numbers]) {
            $embedsAt[] = $at;
            $embedsInto[] = $into;
            $at += $values * $numbers;
            $into += $numbers;
        }
        $sizes = [$into, ...$hidden, $outputs];
        $weightsAt = $biasesAt = $unitsAt = [];
        $units = 0;
        foreach ($sizes as $l => $size) {
            $unitsAt[] = $units;
            $units += $size;
            if (isset($sizes[$l + 1])) {
                $weightsAt[] = $at;
                $at += $size * $sizes[$l + 1];
                $biasesAt[] = $at;
                $at += $sizes[$l + 1];
            }
        }
        [$this->sizes, $this->weightsAt, $this->biasesAt, $this->unitsAt] = [$sizes, $weightsAt, $biasesAt, $unitsAt];
        [$this->embedsAt, $this->embedsInto, $this->parameters, $this->units] = [$embedsAt, $embedsInto, $at, $units];
    }

    /**
     * Drawn to begin with: weights as far as keeps the spread of what passes through (Glorot and Bengio 2010; He et al. 2015), biases 0.
     *
     * @return list<float>
     */
    public function drawn(int $seed, bool $isRelu): array
    {
        $random = Random::stream($seed, 'network');
        $out = [];
        $many = 0 === \count($this->weightsAt) ? 0 : $this->weightsAt[0];
        for ($i = 0; $i < $many; ++$i) {
            $out[] = 0.2 * (Random::share($random) - 0.5);
        }
        foreach ($this->weightsAt as $l => $_) {
            [$in, $next] = [$this->sizes[$l], $this->sizes[$l + 1]];
            $limit = $isRelu && isset($this->weightsAt[$l + 1]) ? sqrt(6 / max(1, $in)) : sqrt(6 / max(1, $in + $next));
            for ($i = 0; $i < $in * $next; ++$i) {
                $out[] = $limit * (2 * Random::share($random) - 1);
            }
            for ($j = 0; $j < $next; ++$j) {
                $out[] = 0.0;
            }
        }

        return $out;
    }

    /** @return list<bool> whether a parameter is held back: weights and embeddings are, biases are not */
    public function heldBack(): array
    {
        $out = array_fill(0, $this->parameters, true);
        foreach ($this->biasesAt as $l => $at) {
            for ($j = 0; $j < $this->sizes[$l + 1]; ++$j) {
                $out[$at + $j] = false;
            }
        }

        return array_values($out);
    }
}
