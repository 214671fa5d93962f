"""Four channels at once: the one place where compiled kernels are told to use vector instructions.

Numba does not join four neighbouring scalar reads into one. The two functions here are written in LLVM's own terms, so that a texel's
four 16-bit channels are loaded, widened and weighted together. Measured on a 4096² ring: the sampler runs about twice as fast.
"""

# mypy: ignore-errors
from llvmlite import ir
from numba.core import cgutils, types
from numba.extending import intrinsic
from numba.np.arrayobj import make_array

_SHORTS = ir.VectorType(ir.IntType(16), 4)
_FLOATS = ir.VectorType(ir.FloatType(), 4)
_LANE = ir.IntType(32)
FOUR = types.UniTuple(types.float32, 4)


def _splat(builder, value):
    lanes = builder.insert_element(ir.Constant(_FLOATS, ir.Undefined), value, _LANE(0))
    return builder.shuffle_vector(lanes, ir.Constant(_FLOATS, ir.Undefined), ir.Constant(ir.VectorType(_LANE, 4), [0, 0, 0, 0]))


def _weighted(builder, base, at, weight, total):
    place = builder.bitcast(builder.gep(base, [at]), _SHORTS.as_pointer())
    texel = builder.load(place, align=2)
    part = builder.fmul(builder.uitofp(texel, _FLOATS), _splat(builder, weight), flags=("fast",))
    return builder.fadd(total, part, flags=("fast",))


def _unpack(builder, four):
    lanes = ir.Constant(_FLOATS, ir.Undefined)
    for k in range(4):
        lanes = builder.insert_element(lanes, builder.extract_value(four, k), _LANE(k))
    return lanes


def _pack(context, builder, lanes):
    return cgutils.pack_array(builder, [builder.extract_element(lanes, _LANE(k)) for k in range(4)])


@intrinsic
def add_texel(typingctx, block, at, weight, total):
    """Return `total` plus `weight` times the four channels that begin at `block[at]`."""
    signature = FOUR(block, types.uintp, types.float32, FOUR)

    def codegen(context, builder, sig, args):
        base = make_array(sig.args[0])(context, builder, args[0]).data
        return _pack(context, builder, _weighted(builder, base, args[1], args[2], _unpack(builder, args[3])))

    return signature, codegen


@intrinsic
def add_four_texels(typingctx, block, p, q, s, t, wp, wq, ws, wt, total):
    """Return `total` plus the weighted sum of the texels that begin at `p`, `q`, `s`, `t`."""
    index, weight = types.uintp, types.float32
    signature = FOUR(block, index, index, index, index, weight, weight, weight, weight, FOUR)

    def codegen(context, builder, sig, args):
        base = make_array(sig.args[0])(context, builder, args[0]).data
        lanes = _unpack(builder, args[9])
        for at, share in zip(args[1:5], args[5:9], strict=True):
            lanes = _weighted(builder, base, at, share, lanes)
        return _pack(context, builder, lanes)

    return signature, codegen
